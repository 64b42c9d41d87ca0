/* Generated from docs/design.schema.json by npm run api. */

export type Kind = "die-cut" | "tape" | "sleeve" | "wrap" | "flag" | "plate" | "sheet";
export type Colour = string;
export type Ink = string;
/**
 * Whole micrometres.
 */
export type Length = number;
export type Tracking = "gap" | "mark" | "notch" | "continuous";
export type Turn = 0 | 90 | 180 | 270;
/**
 * One part of what an element says: a text, a field, a formula or another element. One with none of them is a text that is empty.
 */
export type Piece = {
  text?: string;
  /**
   * Of the record, or the name of a question.
   */
  field?: string;
  /**
   * See docs/formulas.md.
   */
  formula?: string;
  /**
   * The id of another element: what that says.
   */
  element?: string;
  /**
   * Done to it one after the other.
   *
   * @maxItems 30
   */
  changes?: Change[];
  bold?: boolean;
  italic?: boolean;
} & Piece1;
export type Piece1 = {
  [k: string]: unknown;
};
/**
 * @maxItems 100
 */
export type Says = Piece[];
export type Points = number;
export type TextAlign = "" | "left" | "centre" | "right" | "justified";
export type Align = "" | "left" | "centre" | "right";
/**
 * 2 or 5 digits beside an EAN or UPC symbol.
 *
 * @maxItems 100
 */
export type Says1 = Piece[];
/**
 * A line above the code.
 *
 * @maxItems 100
 */
export type Says2 = Piece[];
/**
 * A line below the code.
 *
 * @maxItems 100
 */
export type Says3 = Piece[];
/**
 * Written into user memory, as UTF-8.
 *
 * @maxItems 100
 */
export type Says4 = Piece[];

/**
 * A label design with its stock and printer. All lengths are whole micrometres.
 */
export interface Design {
  format: "oddspool.design/1";
  name: string;
  stock: Stock;
  printer: Printer;
  /**
   * How the artwork lies on the web, in degrees clockwise as it leaves the printer.
   */
  turn?: 0 | 90 | 180 | 270;
  /**
   * How often the legend stands on a piece, as round a cable.
   */
  repeat?: number;
  /**
   * @maxItems 500
   */
  fields?: string[];
  /**
   * @maxItems 500
   */
  elements: Element[];
  /**
   * @maxItems 30
   */
  questions?: Question[];
  /**
   * @maxItems 10
   */
  series?:
    | []
    | [Numbered]
    | [Numbered, Numbered]
    | [Numbered, Numbered, Numbered]
    | [Numbered, Numbered, Numbered, Numbered]
    | [Numbered, Numbered, Numbered, Numbered, Numbered]
    | [Numbered, Numbered, Numbered, Numbered, Numbered, Numbered]
    | [Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered]
    | [Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered]
    | [Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered]
    | [Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered, Numbered];
  /**
   * In which language the fixed words of texts stand on a label.
   */
  languages?: {
    /**
     * Of the records, or a question: its value names the language of a label.
     */
    field: string;
    /**
     * The one that the words are written in.
     */
    own: string;
    /**
     * @maxItems 500
     */
    words?: {
      text: string;
      in: {
        [k: string]: string;
      };
    }[];
  };
  /**
   * Version of the reference pack whose symbols it shows.
   */
  reference?: string;
  /**
   * What its safety label was laid out from, to lay it out again.
   */
  laid?: {
    what: "chemical" | "sign" | "pipe" | "diamond";
    with: {};
  };
  /**
   * What the rules of its safety labels ask of its elements. The proof finds what is not met.
   *
   * @maxItems 500
   */
  demands?: {
    of: "chemical" | "sign" | "pipe" | "diamond";
    /**
     * Without one: the label as a whole.
     */
    element?: string;
    asks: "fill" | "ink" | "colours" | "capitals" | "small" | "width" | "height" | "words" | "presence" | "known";
    colour?: Ink;
    /**
     * Whole micrometres.
     */
    least?: number;
    says?: string;
    /**
     * Why, with the clause.
     */
    rule: string;
    when?: Condition;
    /**
     * The rule says should: not meeting it is a warning.
     */
    advice?: boolean;
    /**
     * The reason why it is not kept to.
     */
    overruled?: string;
  }[];
  /**
   * Groups that are shared with other designs, each with the version it is.
   *
   * @maxItems 100
   */
  parts?: {
    group: string;
    part: number;
    version: number;
  }[];
}
export interface Stock {
  number?: string;
  name: string;
  kind: Kind;
  material?: string;
  purpose?: string;
  colour?: Colour;
  /**
   * Inks that heat alone brings out of its coating.
   *
   * @maxItems 10
   */
  reacts?:
    | []
    | [Ink]
    | [Ink, Ink]
    | [Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink];
  shape: "rectangle" | "rounded" | "circle" | "ellipse";
  cornerRadius?: Length;
  /**
   * Whole micrometres.
   */
  width: number;
  /**
   * Whole micrometres.
   */
  length: number;
  gap: Length;
  edgeLeft?: Length;
  edgeRight?: Length;
  lanes?: number;
  laneGap?: Length;
  perforated?: boolean;
  tracking?: Tracking;
  mark?: {
    offset: Length;
    height: Length;
  };
  roll?: {
    core: Length;
    outside: Length;
    thickness: Length;
    winding?: "in" | "out";
  };
  perRoll?: number;
  tape?: {
    byContent?: boolean;
    margin?: Length;
    least?: Length;
    most?: Length;
    waste?: Length;
  };
  sleeve?: {
    supplied: Length;
    recovered: Length;
    wall: Length;
    ladder?: boolean;
    faces?: number;
  };
  wrap?: {
    tail: Length;
  };
  flag?: {
    round: Length;
  };
  plate?: {
    /**
     * @maxItems 50
     */
    holes?: {
      x: Length;
      y: Length;
      diameter: Length;
    }[];
    clearance?: Length;
    core?: Colour;
  };
  sheet?: {
    width: Length;
    height: Length;
    left: Length;
    top: Length;
    columns: number;
    rows: number;
    pitchX: Length;
    pitchY: Length;
  };
  /**
   * An antenna with a chip in each piece, as it lies on the web.
   */
  inlay?: {
    x: Length;
    y: Length;
    width: Length;
    height: Length;
    chipX: Length;
    chipY: Length;
    epcBits: number;
    userBits?: number;
  };
  /**
   * Whole micrometres.
   */
  keep?: number;
}
export interface Printer {
  name: string;
  resolution: string;
  headDots: number;
  alignment?: "" | "centred" | "left";
  /**
   * @maxItems 10
   */
  takes?:
    | []
    | [Kind]
    | [Kind, Kind]
    | [Kind, Kind, Kind]
    | [Kind, Kind, Kind, Kind]
    | [Kind, Kind, Kind, Kind, Kind]
    | [Kind, Kind, Kind, Kind, Kind, Kind]
    | [Kind, Kind, Kind, Kind, Kind, Kind, Kind]
    | [Kind, Kind, Kind, Kind, Kind, Kind, Kind, Kind]
    | [Kind, Kind, Kind, Kind, Kind, Kind, Kind, Kind, Kind]
    | [Kind, Kind, Kind, Kind, Kind, Kind, Kind, Kind, Kind, Kind];
  leastWeb?: Length;
  mostWeb?: Length;
  minLength?: Length;
  maxLength?: Length;
  /**
   * @maxItems 10
   */
  sensors?:
    | []
    | [Tracking]
    | [Tracking, Tracking]
    | [Tracking, Tracking, Tracking]
    | [Tracking, Tracking, Tracking, Tracking]
    | [Tracking, Tracking, Tracking, Tracking, Tracking]
    | [Tracking, Tracking, Tracking, Tracking, Tracking, Tracking]
    | [Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking]
    | [Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking]
    | [Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking]
    | [Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking, Tracking];
  /**
   * @maxItems 20
   */
  inks?:
    | []
    | [Ink]
    | [Ink, Ink]
    | [Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink];
  /**
   * Metres on a new ribbon.
   */
  ribbon?: number;
  /**
   * @maxItems 10
   */
  heats?:
    | []
    | [Ink]
    | [Ink, Ink]
    | [Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink]
    | [Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink, Ink];
  /**
   * mm/s at most.
   */
  speed?: number;
  /**
   * mm/s at least.
   */
  slowSpeed?: number;
  cutter?: boolean;
  peeler?: boolean;
  rewinder?: boolean;
  applicator?: boolean;
  encoder?: boolean;
  vector?: boolean;
}
export interface Element {
  id: string;
  kind: "text" | "code" | "line" | "box" | "oval" | "picture" | "symbol" | "tag";
  x: Length;
  y: Length;
  /**
   * Whole micrometres.
   */
  width: number;
  /**
   * Whole micrometres.
   */
  height: number;
  turn?: Turn;
  /**
   * Of a text besides its turn, in degrees clockwise about the middle of its box.
   */
  angle?: number;
  locked?: boolean;
  /**
   * It is not printed.
   */
  hidden?: boolean;
  /**
   * Name of those that are chosen and moved together.
   */
  group?: string;
  when?: Condition;
  /**
   * A name such as red, or a colour #RRGGBB; without one black, or the nearest there is.
   */
  ink?: string;
  says?: Says;
  ifEmpty?: "" | "leave out";
  text?: TextLooks;
  code?: CodeLooks;
  /**
   * Whole micrometres.
   */
  weight?: number;
  picture?: PictureLooks;
  symbol?: SymbolLooks;
  tag?: TagLooks;
  shape?: Shape;
  /**
   * Of a box or an oval: it is a frame round these elements.
   *
   * @maxItems 100
   */
  around?: string[];
  /**
   * Whole micrometres.
   */
  distance?: number;
}
/**
 * On which labels an element stands, by a field of their records.
 */
export interface Condition {
  field: string;
  is: "one of" | "none of" | "empty" | "filled";
  /**
   * @maxItems 200
   */
  values?: string[];
}
/**
 * One of oddspool formula -list's functions, done without writing a formula.
 */
export interface Change {
  do: string;
  /**
   * @maxItems 60
   */
  with?: string[];
}
export interface TextLooks {
  typeface: string;
  bold?: boolean;
  italic?: boolean;
  points: Points;
  shrinkTo?: number;
  align?: TextAlign;
  stand?: "" | "top" | "middle" | "bottom";
  wrap?: boolean;
  /**
   * Per cent of the typeface's own line spacing.
   */
  spacing?: number;
  /**
   * More room between letters, in per cent of the size of type.
   */
  tracking?: number;
  /**
   * Whole micrometres.
   */
  capitals?: number;
  /**
   * Drawn as wide and tall as its box.
   */
  stretch?: boolean;
  /**
   * The distance it is to be read from, in metres.
   */
  readFrom?: number;
}
export interface CodeLooks {
  symbology:
    | "code128"
    | "gs1-128"
    | "code39"
    | "code39-full"
    | "code93"
    | "codabar"
    | "interleaved2of5"
    | "industrial2of5"
    | "matrix2of5"
    | "iata2of5"
    | "identcode"
    | "leitcode"
    | "itf14"
    | "ean13"
    | "ean8"
    | "upca"
    | "upce"
    | "code11"
    | "msi"
    | "telepen"
    | "telepen-numeric"
    | "pharmacode"
    | "pzn"
    | "code32"
    | "hibc-code39"
    | "hibc-code128"
    | "databar"
    | "databar-stacked"
    | "databar-stacked-low"
    | "databar-limited"
    | "databar-expanded"
    | "databar-expanded-stacked"
    | "qr"
    | "gs1-qr"
    | "micro-qr"
    | "rmqr"
    | "datamatrix"
    | "gs1-datamatrix"
    | "aztec"
    | "gs1-link-qr"
    | "gs1-link-datamatrix"
    | "gs1-aztec"
    | "pdf417"
    | "micro-pdf417"
    | "hibc-datamatrix"
    | "hibc-qr";
  /**
   * Whole micrometres.
   */
  module: number;
  fit?: "" | "not smaller" | "largest";
  align?: Align;
  readable?: "" | "below" | "above" | "none";
  typeface?: string;
  points?: number;
  /**
   * Append the check character that the symbology leaves open.
   */
  check?: boolean;
  /**
   * Wide to narrow, of codes with two widths.
   */
  ratio?: number;
  /**
   * Error correction, as the symbology has it.
   */
  level?: string;
  /**
   * 1 to 40 of QR Code, M1 to M4 of Micro QR Code, R7x43 to R17x139 of rMQR Code; without one the smallest.
   */
  version?: string;
  /**
   * As the symbology has them; without one the smaller.
   */
  form?: string;
  /**
   * As the symbology has them; without one the smaller.
   */
  shape?: string;
  /**
   * Whether letters of western Europe in Data Matrix, Aztec Code, PDF417 and MicroPDF417 say what they are (ECI); without a word where that makes the code no larger.
   */
  letters?: "" | "told" | "plain";
  /**
   * Rows by columns of Data Matrix, such as 24x24; without one the smallest.
   */
  size?: string;
  /**
   * Each character is the byte of its number, up to U+00FF.
   */
  bytes?: boolean;
  /**
   * Whether GTINs are given with their check digit or without it; without a word by their length.
   */
  checkDigit?: "" | "given" | "missing";
  /**
   * Rule of the check characters, as the symbology has them; without one its usual.
   */
  checkRule?: string;
  /**
   * Of PDF417 and MicroPDF417, or pairs in a row of GS1 DataBar Expanded Stacked.
   */
  columns?: number;
  /**
   * Where a GS1 Digital Link begins.
   */
  host?: string;
  /**
   * Where the code is scanned, which decides its size.
   */
  purpose?: "" | "checkout" | "distribution" | "both" | "hand" | "logistic" | "healthcare" | "assets";
  /**
   * Spread the readable text over the width of the bars.
   */
  spread?: boolean;
  addOn?: Says1;
  header?: Says2;
  footer?: Says3;
  /**
   * Dots by which each bar is narrower.
   */
  narrower?: number;
}
/**
 * Which picture it is, and how it becomes dots.
 */
export interface PictureLooks {
  /**
   * SHA-256 of its bytes.
   */
  hash: string;
  name?: string;
  way?: "" | "ordered" | "diffused";
  /**
   * Per cent; below zero darker.
   */
  lighter?: number;
  /**
   * Fill the box, proportions or not.
   */
  stretch?: boolean;
  /**
   * What is cut off at each side, in per cent.
   */
  crop?: {
    left?: number;
    top?: number;
    right?: number;
    bottom?: number;
  };
}
/**
 * Which symbol of the library it is; where the element says something, that is the symbol, and this one of the same colours.
 */
export interface SymbolLooks {
  /**
   * As oddspool symbol -list has it, such as W012 or GHS02.
   */
  id: string;
  /**
   * Its frame is printed on the stock already.
   */
  noFrame?: boolean;
}
/**
 * In which form what a tag says is written into the chip of a label.
 */
export interface TagLooks {
  /**
   * Of the GS1 EPC Tag Data Standard; empty: what it says are hexadecimal digits.
   */
  scheme?:
    | ""
    | "sgtin-96"
    | "sgtin-198"
    | "sscc-96"
    | "sgln-96"
    | "sgln-195"
    | "grai-96"
    | "grai-170"
    | "giai-96"
    | "giai-202"
    | "gsrn-96"
    | "gsrnp-96"
    | "gdti-96"
    | "gdti-174"
    | "sgcn-96"
    | "itip-110"
    | "itip-212"
    | "cpi-96"
    | "cpi-var"
    | "adi-var"
    | "gid-96"
    | "sgtin+"
    | "sscc+"
    | "sgln+"
    | "gsrn+"
    | "gsrnp+"
    | "gdti+";
  /**
   * Digits of the GS1 Company Prefix; forms with + need none.
   */
  prefix?: number;
  filter?: number;
  /**
   * Application family identifier (ISO/IEC 15961-2) of hexadecimal digits that are no EPC.
   */
  afi?: number;
  user?: Says4;
  lock?: "" | "password" | "for good";
  /**
   * The access password.
   */
  access?: string;
  /**
   * The password that ends the chip for good.
   */
  kill?: string;
}
/**
 * How a box, an oval or a line is drawn.
 */
export interface Shape {
  /**
   * Whole micrometres.
   */
  corner?: number;
  /**
   * Without one it is not filled.
   */
  fill?: string;
  noOutline?: boolean;
  /**
   * Of a line: from corner to corner of its box.
   */
  slope?: "" | "down" | "up";
  /**
   * Of a line.
   */
  dash?: "" | "dashed" | "dotted";
  /**
   * Of a line: which ends are pointed.
   */
  arrow?: "" | "start" | "end" | "both";
  /**
   * Of an oval: a regular polygon in it.
   */
  sides?: number;
  /**
   * Per cent of the fill's dots; 0 is all.
   */
  tint?: number;
}
/**
 * Asked before a run; its answer is a field.
 */
export interface Question {
  name: string;
  words?: string;
  kind: "text" | "number" | "date" | "choice" | "yes or no";
  /**
   * What it is asked for; empty: it is asked once before a run.
   */
  each?: "" | "record" | "label";
  must?: boolean;
  default?: string;
  least?: string;
  most?: string;
  pattern?: string;
  /**
   * Of a choice: a field of a record set whose values can be chosen too.
   */
  from?: {
    set: string;
    field: string;
  };
  /**
   * @maxItems 200
   */
  choices?: string[];
}
/**
 * A number of a series that labels have; it is a field.
 */
export interface Numbered {
  /**
   * Of the series, by which the database knows it, and of the field.
   */
  name: string;
  /**
   * What has a number; empty: each label.
   */
  per?: "" | "label" | "record" | "group" | "run";
  /**
   * A formula: records that follow one another and for which its value is the same are a group.
   */
  group?: string;
  /**
   * A formula: for each of its values the series counts on its own.
   */
  anew?: string;
  counts: Series;
}
/**
 * How numbers are counted.
 */
export interface Series {
  start: string;
  step: number;
  end?: string;
  count?: number;
  width?: number;
  digits?: string;
  prefix?: string;
  suffix?: string;
  check?: string;
  random?: string;
}
