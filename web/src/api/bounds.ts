/* Generated from api/openapi.yaml and docs/design.schema.json by npm run api. */
export const designBounds = {
  Design: {
    name: {
      maxlength: 200,
    },
    repeat: {
      min: 0,
      max: 100,
    },
    fields: {
      maxlength: 200,
    },
    'languages.field': {
      maxlength: 200,
    },
    'languages.own': {
      maxlength: 40,
    },
    'languages.words.text': {
      maxlength: 5000,
    },
    'languages.words.in': {
      maxlength: 5000,
    },
    'demands.element': {
      maxlength: 60,
    },
    'demands.least': {
      min: 0,
    },
    'demands.says': {
      maxlength: 5000,
    },
    'demands.rule': {
      maxlength: 500,
    },
    'demands.overruled': {
      maxlength: 500,
    },
    'parts.group': {
      maxlength: 60,
    },
    'parts.part': {
      min: 1,
    },
    'parts.version': {
      min: 1,
    },
  },
  Length: {
    value: {
      min: -10000000,
      max: 10000000,
    },
  },
  Ink: {
    value: {
      maxlength: 60,
    },
  },
  Stock: {
    number: {
      maxlength: 60,
    },
    name: {
      maxlength: 200,
    },
    material: {
      maxlength: 200,
    },
    purpose: {
      maxlength: 400,
    },
    lanes: {
      min: 1,
      max: 40,
    },
    perRoll: {
      min: 1,
      max: 10000000,
    },
    'sleeve.faces': {
      min: 0,
      max: 2,
    },
    'sheet.columns': {
      min: 1,
      max: 200,
    },
    'sheet.rows': {
      min: 1,
      max: 200,
    },
    'inlay.epcBits': {
      min: 16,
      max: 496,
    },
    'inlay.userBits': {
      min: 0,
      max: 65536,
    },
  },
  Printer: {
    name: {
      maxlength: 200,
    },
    headDots: {
      min: 1,
      max: 40000,
    },
    ribbon: {
      min: 0,
      max: 5000,
    },
    speed: {
      min: 0,
      max: 2000,
    },
    slowSpeed: {
      min: 0,
      max: 2000,
    },
  },
  Element: {
    id: {
      maxlength: 60,
    },
    angle: {
      min: -180,
      max: 180,
    },
    group: {
      maxlength: 60,
    },
    weight: {
      min: 0,
    },
    around: {
      maxlength: 60,
    },
  },
  Condition: {
    field: {
      maxlength: 200,
    },
    values: {
      maxlength: 1000,
    },
  },
  TagLooks: {
    prefix: {
      min: 6,
      max: 12,
    },
    filter: {
      min: 0,
      max: 7,
    },
    afi: {
      min: 0,
      max: 255,
    },
  },
  SymbolLooks: {
    id: {
      maxlength: 60,
    },
  },
  PictureLooks: {
    name: {
      maxlength: 200,
    },
    lighter: {
      min: -100,
      max: 100,
    },
    'crop.left': {
      min: 0,
      max: 99,
    },
    'crop.top': {
      min: 0,
      max: 99,
    },
    'crop.right': {
      min: 0,
      max: 99,
    },
    'crop.bottom': {
      min: 0,
      max: 99,
    },
  },
  Shape: {
    corner: {
      min: 0,
    },
    sides: {
      min: 0,
      max: 24,
    },
    tint: {
      min: 1,
      max: 100,
    },
  },
  Piece: {
    text: {
      maxlength: 10000,
    },
    field: {
      maxlength: 200,
    },
    formula: {
      maxlength: 5000,
    },
    element: {
      maxlength: 200,
    },
  },
  Change: {
    do: {
      maxlength: 40,
    },
    with: {
      maxlength: 500,
    },
  },
  Question: {
    name: {
      maxlength: 60,
    },
    words: {
      maxlength: 200,
    },
    default: {
      maxlength: 500,
    },
    least: {
      maxlength: 40,
    },
    most: {
      maxlength: 40,
    },
    pattern: {
      maxlength: 300,
    },
    'from.set': {
      maxlength: 200,
    },
    'from.field': {
      maxlength: 400,
    },
    choices: {
      maxlength: 200,
    },
  },
  Numbered: {
    name: {
      maxlength: 60,
    },
    group: {
      maxlength: 2000,
    },
    anew: {
      maxlength: 2000,
    },
  },
  Series: {
    start: {
      maxlength: 60,
    },
    step: {
      min: -1000000000,
      max: 1000000000,
    },
    end: {
      maxlength: 60,
    },
    count: {
      min: 0,
      max: 1000000,
    },
    width: {
      min: 0,
      max: 60,
    },
    digits: {
      maxlength: 400,
    },
    prefix: {
      maxlength: 200,
    },
    suffix: {
      maxlength: 200,
    },
    check: {
      maxlength: 40,
    },
    random: {
      maxlength: 100,
    },
  },
  Points: {
    value: {
      min: 1,
      max: 2000,
    },
  },
  TextLooks: {
    typeface: {
      maxlength: 100,
    },
    shrinkTo: {
      min: 1,
      max: 2000,
    },
    spacing: {
      min: 10,
      max: 1000,
    },
    tracking: {
      min: -20,
      max: 200,
    },
    capitals: {
      min: 100,
    },
    readFrom: {
      min: 0,
      max: 1000,
    },
  },
  CodeLooks: {
    module: {
      min: 20,
      max: 50000,
    },
    typeface: {
      maxlength: 100,
    },
    points: {
      min: 1,
      max: 2000,
    },
    ratio: {
      min: 2,
      max: 3,
    },
    level: {
      maxlength: 3,
    },
    version: {
      maxlength: 8,
    },
    form: {
      maxlength: 12,
    },
    shape: {
      maxlength: 12,
    },
    size: {
      maxlength: 8,
    },
    checkRule: {
      maxlength: 20,
    },
    columns: {
      min: 1,
      max: 30,
    },
    host: {
      maxlength: 200,
    },
    narrower: {
      min: 0,
      max: 20,
    },
  },
} as const

export const requestBounds = {
  ArtworkDesign: {
    name: {
      maxlength: 200,
    },
  },
  SignIn: {
    name: {
      maxlength: 200,
    },
    password: {
      maxlength: 1000,
    },
  },
  HazardRequest: {
    substance: {
      maxlength: 130,
    },
    classes: {
      maxlength: 2000,
    },
    mixture: {
      maxlength: 4000,
    },
    known: {
      maxlength: 300,
    },
    form: {
      maxlength: 10,
    },
    rules: {
      maxlength: 10,
    },
    language: {
      maxlength: 5,
    },
    volume: {
      min: 0,
      max: 1000000000,
    },
    fill: {
      maxlength: 300,
    },
  },
  PrecautionChoice: {
    code: {
      maxlength: 30,
    },
    reason: {
      maxlength: 300,
    },
  },
  Substance: {
    state: {
      maxlength: 100,
    },
    notes: {
      maxlength: 2,
    },
  },
  ChemicalRequest: {
    name: {
      maxlength: 300,
    },
    supplier: {
      maxlength: 500,
    },
    quantity: {
      maxlength: 100,
    },
    ufi: {
      maxlength: 30,
    },
    languages: {
      maxlength: 5,
    },
  },
  SignRequest: {
    kind: {
      maxlength: 20,
    },
    symbols: {
      maxlength: 60,
    },
    message: {
      maxlength: 1000,
    },
    second: {
      maxlength: 1000,
    },
    language: {
      maxlength: 5,
    },
    distance: {
      min: 0.1,
      max: 1000,
    },
    light: {
      maxlength: 10,
    },
  },
  PipeRequest: {
    rules: {
      maxlength: 20,
    },
    contents: {
      maxlength: 200,
    },
    group: {
      maxlength: 60,
    },
    field: {
      maxlength: 200,
    },
    groupField: {
      maxlength: 200,
    },
    diameterField: {
      maxlength: 200,
    },
    flowField: {
      maxlength: 200,
    },
    diameter: {
      min: 1,
      max: 100000,
    },
    flow: {
      maxlength: 10,
    },
    symbols: {
      maxlength: 60,
    },
  },
  SignText: {
    kind: {
      maxlength: 40,
    },
    symbols: {
      maxlength: 100,
    },
    message: {
      maxlength: 500,
    },
  },
  DiamondRequest: {
    special: {
      maxlength: 10,
    },
    name: {
      maxlength: 200,
    },
  },
  PutPrinter: {
    address: {
      maxlength: 400,
    },
    camera: {
      maxlength: 400,
    },
    encoder: {
      maxlength: 400,
    },
  },
  SetupAbout: {
    name: {
      maxlength: 100,
    },
    darkness: {
      min: 0,
      max: 100,
    },
    speed: {
      min: 0,
      max: 2000,
    },
    finish: {
      maxlength: 20,
    },
    cutEvery: {
      min: 0,
      max: 100000,
    },
  },
  PutSetup: {
    stock: {
      maxlength: 60,
    },
  },
  Carry: {
    record: {
      min: 1,
    },
  },
  SayLoaded: {
    reason: {
      maxlength: 300,
    },
  },
  DesignLabels: {
    name: {
      maxlength: 200,
    },
    tags: {
      maxlength: 40,
    },
  },
  NewDesign: {
    start: {
      maxlength: 60,
    },
    name: {
      maxlength: 200,
    },
  },
  StripRequest: {
    records: {
      min: 1,
    },
  },
  Gs1Row: {
    ai: {
      maxlength: 4,
    },
  },
  Gs1Apart: {
    fields: {
      maxlength: 200,
    },
    record: {
      min: 1,
    },
  },
  WrittenRecords: {
    name: {
      maxlength: 200,
    },
    fields: {
      maxlength: 400,
    },
    records: {
      maxlength: 10000,
    },
  },
  CheckRecords: {
    fields: {
      maxlength: 400,
    },
    records: {
      maxlength: 10000,
    },
  },
  Choosing: {
    words: {
      maxlength: 200,
    },
    firstOf: {
      maxlength: 200,
    },
  },
  FieldTest: {
    field: {
      maxlength: 200,
    },
    values: {
      maxlength: 500,
    },
  },
  FieldOrder: {
    field: {
      maxlength: 200,
    },
  },
  FormulaTry: {
    formula: {
      maxlength: 5000,
    },
    from: {
      min: 1,
    },
    answers: {
      maxlength: 200,
    },
  },
  Answers: {
    value: {
      maxlength: 2000,
    },
  },
  Place: {
    host: {
      maxlength: 255,
    },
    port: {
      min: 1,
      max: 65535,
    },
    database: {
      maxlength: 200,
    },
    user: {
      maxlength: 200,
    },
    path: {
      maxlength: 500,
    },
    address: {
      maxlength: 500,
    },
  },
  PutConnection: {
    name: {
      maxlength: 200,
    },
    password: {
      maxlength: 500,
    },
  },
  Table: {
    schema: {
      maxlength: 200,
    },
    name: {
      maxlength: 500,
    },
  },
  DeskQuestion: {
    number: {
      maxlength: 200,
    },
    words: {
      maxlength: 200,
    },
    lines: {
      maxlength: 200,
    },
  },
  SourceRequest: {
    schema: {
      maxlength: 200,
    },
    table: {
      maxlength: 500,
    },
    columns: {
      maxlength: 200,
    },
    text: {
      maxlength: 20000,
    },
  },
  WriteBack: {
    at: {
      maxlength: 200,
    },
    by: {
      maxlength: 200,
    },
    count: {
      maxlength: 200,
    },
    numbers: {
      maxlength: 200,
    },
  },
  Rereading: {
    key: {
      maxlength: 200,
    },
    everyMinutes: {
      min: 0,
      max: 10080,
    },
  },
  TakeSource: {
    name: {
      maxlength: 200,
    },
  },
  HowMany: {
    each: {
      min: 1,
      max: 1000000,
    },
    pack: {
      min: 1,
      max: 1000000,
    },
    corrected: {
      min: 0,
      max: 1000000,
    },
  },
  SeriesCounts: {
    start: {
      maxlength: 60,
    },
    step: {
      min: -1000000000,
      max: 1000000000,
    },
    end: {
      maxlength: 60,
    },
    count: {
      min: 0,
      max: 1000000,
    },
    width: {
      min: 0,
      max: 60,
    },
    digits: {
      maxlength: 400,
    },
    prefix: {
      maxlength: 200,
    },
    suffix: {
      maxlength: 200,
    },
    check: {
      maxlength: 40,
    },
    random: {
      maxlength: 100,
    },
  },
  AddSeries: {
    name: {
      maxlength: 60,
    },
    list: {
      maxlength: 300,
    },
  },
  AdvanceSeries: {
    ahead: {
      min: 0,
      max: 1000000,
    },
    last: {
      maxlength: 300,
    },
    why: {
      maxlength: 500,
    },
  },
  ScanLabel: {
    scanned: {
      maxlength: 8000,
    },
  },
  SpoilLabels: {
    labels: {
      maxlength: 100000,
    },
  },
  RunAnswer: {
    record: {
      min: 1,
    },
    copy: {
      min: 0,
    },
    name: {
      maxlength: 60,
    },
    answer: {
      maxlength: 2000,
    },
  },
  RunChoice: {
    records: {
      maxlength: 100000,
    },
    answers: {
      maxlength: 2000,
    },
  },
  Beside: {
    field: {
      maxlength: 200,
    },
    every: {
      min: 1,
      max: 1000000,
    },
    copies: {
      min: 1,
      max: 100,
    },
  },
  AddRolls: {
    stock: {
      maxlength: 200,
    },
    rolls: {
      min: 1,
      max: 1000,
    },
    left: {
      min: 1,
      max: 100000000000,
    },
    place: {
      maxlength: 200,
    },
  },
  KeepDayOrder: {
    name: {
      maxlength: 200,
    },
  },
  StartPrint: {
    labels: {
      maxlength: 100000,
    },
    start: {
      min: 0,
      max: 40000,
    },
  },
  LastOut: {
    lastLabel: {
      min: 0,
      max: 1000000,
    },
  },
  MovePrint: {
    printerId: {
      min: 1,
    },
    setupId: {
      min: 1,
    },
    lastLabel: {
      min: 0,
      max: 1000000,
    },
  },
} as const
