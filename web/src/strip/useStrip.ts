import { useEventListener, useThrottleFn } from '@vueuse/core'
import {
  computed,
  type InjectionKey,
  type MaybeRefOrGetter,
  onScopeDispose,
  provide,
  type Ref,
  shallowRef,
  toRaw,
  toValue,
  watch,
} from 'vue'
import { api, type Problem, type Schemas } from '@/api/client'
import { asDocument, type Design } from '@/api/documents'
import { mostDots } from '@/core/messages'
import { useCore } from '@/core/useCore'
import { afterPaint } from '@/shared/afterPaint'
import type { Answered } from '@/shared/useAsked'
import type { Dots } from './dots'
import { useValues } from './useValues'

/** How many labels beside the one in hand, of how many dots in all inks at most, the page draws itself: the worker draws the rest a little later. */
const besides = 3
const mostBeside = 600_000

/** A label with its picture, drawn by the server, or its dots, drawn here. */
export type StripLabel = Omit<Schemas['StripLabel'], 'picture'> & { picture?: string; dots?: Dots }
type About = Omit<Schemas['Strip'], 'labels' | 'fields' | 'total'>

export interface Strip {
  /** Labels by record number, as far as they are known. */
  labels: Readonly<Ref<ReadonlyMap<number, StripLabel>>>
  fields: Readonly<Ref<readonly Schemas['FieldValue'][]>>
  total: Readonly<Ref<number>>
  size: Readonly<Ref<{ width: number; height: number }>>
  /** Micrometres in a dot; 0 until it is known. */
  dot: Readonly<Ref<number>>
  inks: Readonly<Ref<readonly Schemas['Ink'][]>>
  mixes: Readonly<Ref<boolean>>
  mostLegends: Readonly<Ref<number>>
  problem: Readonly<Ref<Problem | undefined>>
  /** Draws the label in hand of a design at once, before the page itself follows: for what the hand moves. */
  hurry: (design: Design) => void
  /** Draws what is wanted, if it is not drawn already: what the server was asked first has come. */
  again: () => void
}

/** The dots of a label. */
export interface Shown {
  record: number
  width: number
  height: number
  dots: Dots
}
/** Calls back with the dots of each label as soon as they are there; returns what ends it. */
export type OnDots = (call: (shown: Shown) => void) => () => void
/** Those who show labels hear of dots before the page is made anew around them. */
export const stripDots: InjectionKey<OnDots> = Symbol('strip dots')

/**
 * The labels of some records, drawn anew whenever the design changes, the first of them first. The core in the page
 * draws them; until it is there, and where it cannot, the server does. The newest design counts, so that the strip keeps
 * up with a hand without ever piling up work. version changes whenever something of the design does. first gives what was there before the
 * design was, where that is still what is wanted.
 */
export function useStrip(
  design: MaybeRefOrGetter<Design | undefined>,
  recordSetId: MaybeRefOrGetter<number | undefined>,
  records: MaybeRefOrGetter<readonly number[]>,
  version: MaybeRefOrGetter<number>,
  first?: () => Answered<Schemas['Strip']> | undefined,
): Strip {
  const about = shallowRef<About>()
  const total = shallowRef(0)
  const fields = shallowRef<readonly Schemas['FieldValue'][]>([])
  const labels = shallowRef<ReadonlyMap<number, StripLabel>>(new Map())
  const problem = shallowRef<Problem>()
  const core = useCore()
  const values = useValues(recordSetId)
  const begun = useInputTime()
  let round = 0
  let lastAsked = ''
  let dirty = false
  let asking = false

  /** The last round in which the page drew a label itself: what the worker tells of it from an earlier one comes late. */
  const drawnHere = new Map<number, number>()
  /** Those that it drew when it last drew the one in hand. */
  let drawnBeside: readonly number[] = []
  /** What the canvas of the label in hand shows, where the page drew it. */
  let drawn: string | undefined
  const whatIs = (...of: [document: string, fields: string, record: number, values: string]) => of.join('\n')

  /** Asks the core, where it can draw the label in hand; tells whether it could. */
  function askCore(document: Design): boolean {
    if (!core.ready.value || tooLarge()) return false
    const wanted = toValue(records)
    values.want(wanted)
    const known = wanted.filter((n) => values.known.value.has(n))
    if (known[0] === undefined || known[0] !== wanted[0]) return false
    const asked = {
      document: JSON.stringify(toRaw(document)),
      fields: JSON.stringify(values.fields.value),
      labels: known.map((n) => ({ record: n, values: JSON.stringify(values.known.value.get(n)) })),
    }
    const says = JSON.stringify(asked)
    if (says === lastAsked) return true
    lastAsked = says
    round++
    const [first] = asked.labels
    const here =
      first !== undefined && drawn === whatIs(asked.document, asked.fields, first.record, first.values)
    if (here) for (const n of [first.record, ...drawnBeside]) drawnHere.set(n, round)
    core.draw({ kind: 'draw', round, ...asked, drawn: here })
    return true
  }
  function drawHere(document: Design) {
    const [record] = toValue(records)
    const row = record === undefined ? undefined : values.known.value.get(record)
    if (!row || record === undefined || tooLarge()) return
    const [fieldsText, rowText] = [JSON.stringify(values.fields.value), JSON.stringify(row)]
    const label = core.hand.value?.draw(document, fieldsText, rowText)
    if (!label) return
    drawnHere.set(record, ++round)
    drawn = whatIs(JSON.stringify(document), fieldsText, record, rowText)
    const { width, height, face, layers, dots } = label
    paint({ record, width, height, dots: { planes: dots, face, layers } })
    drawnBeside =
      width * height * layers.length > mostBeside
        ? []
        : toValue(records)
            .slice(1, 1 + besides)
            .filter(drawBeside)
    for (const n of drawnBeside) drawnHere.set(n, round)

    function drawBeside(record: number): boolean {
      const row = values.known.value.get(record)
      const drawn = row && core.hand.value?.beside(JSON.stringify(row))
      if (drawn) paint({ ...drawn, record, dots: { planes: drawn.dots, face, layers } })
      return drawn !== undefined
    }
  }
  const tooLarge = () =>
    about.value !== undefined && about.value.width * about.value.height * about.value.layers.length > mostDots

  function tray() {
    const row = values.known.value.get(toValue(records)[0] ?? 1)
    if (!row) return
    fields.value = values.fields.value.map((name, i) => ({ name, value: row[i] ?? '' }))
    total.value = values.count.value
  }

  /** Labels that are no longer in sight are let go. */
  function put(fresh: Iterable<StripLabel>) {
    const wanted = new Set(toValue(records))
    const all = [...labels.value, ...[...fresh].map((l) => [l.record, l] as const)]
    labels.value = new Map(all.filter(([n]) => wanted.has(n)))
    for (const of of [lastDots, drawnHere]) for (const n of of.keys()) if (!wanted.has(n)) of.delete(n)
  }

  const hearers = new Set<(shown: Shown) => void>()
  provide(stripDots, (call) => {
    hearers.add(call)
    return () => hearers.delete(call)
  })
  const arrived = new Map<number, StripLabel>()
  /** The page around the dots is made anew when they were painted, and not at every move of a hand. */
  const settle = useThrottleFn(
    () => {
      // Dots may have come since a label was judged: those count.
      put([...arrived.values()].map((l) => ({ ...l, dots: lastDots.get(l.record) ?? l.dots })))
      arrived.clear()
    },
    80,
    true,
  )
  /** The dots of each label as they were drawn last, those in sight. */
  const lastDots = new Map<number, Dots>()
  function paint(shown: Shown) {
    lastDots.set(shown.record, shown.dots)
    for (const call of hearers) call(shown)
    const name = shown.record === toValue(records)[0] ? 'hand drawn' : 'neighbour drawn'
    const start = begun.value
    afterPaint(() => performance.measure(name, { start }))
  }
  function judged(label: StripLabel, now: About) {
    arrived.set(label.record, label)
    afterPaint(() => {
      about.value = now
      problem.value = undefined
      void settle()
    })
  }

  onScopeDispose(
    core.onTold((told) => {
      if (told.kind === 'failed' && told.round === round) void askServer()
      if (told.kind !== 'judged' && told.kind !== 'dots') return
      const now = JSON.parse(told.about) as About
      const [hand] = toValue(records)
      if (told.kind === 'dots') {
        if (told.round <= (drawnHere.get(told.record) ?? 0)) return
        if (told.record === hand) drawn = undefined
        paint({ ...told, dots: { planes: told.dots, face: now.face, layers: now.layers } })
        return
      }
      const label = JSON.parse(told.label) as StripLabel
      // Older than what the page drew itself: it would take the label back.
      if (told.round < (drawnHere.get(label.record) ?? 0)) return
      const dots = lastDots.get(label.record)
      if (dots) judged({ ...label, dots }, now)
    }),
  )

  /** One question is under way at a time; what changes meanwhile is asked as soon as it is back. */
  async function askServer() {
    if (asking) {
      dirty = true
      return
    }
    asking = true
    do {
      dirty = false
      const mine = round
      const { data, error } =
        first?.() ??
        (await api.POST('/strip', {
          body: {
            document: asDocument(toValue(design) as Design),
            recordSetId: toValue(recordSetId),
            records: [...toValue(records)],
          },
        }))
      if (mine !== round) break // the core drew meanwhile
      if (data) {
        about.value = data
        total.value = data.total
        fields.value = data.fields
        put(data.labels)
        const start = begun.value
        afterPaint(() => performance.measure('hand drawn', { start }))
      }
      problem.value = error
    } while (dirty)
    asking = false
  }

  function ask() {
    const document = toValue(design)
    if (document && !askCore(document)) void askServer()
  }
  watch([() => toValue(version), () => toValue(recordSetId), () => toValue(records)], ask, {
    immediate: true,
  })
  watch([core.ready, values.known], ask)
  watch([core.hand, values.known, () => toValue(recordSetId)], () => {
    const document = toValue(design)
    const row = values.known.value.get(toValue(records)[0] ?? 1)
    if (!document || !row) return
    const [text, fields] = [JSON.stringify(toRaw(document)), JSON.stringify(values.fields.value)]
    void core.hand.value?.prepare(text, fields, JSON.stringify(row))
  })
  watch([values.known, () => toValue(records)], tray)

  return {
    labels,
    fields: stable(() => fields.value),
    total,
    size: stable(() => ({ width: about.value?.width ?? 0, height: about.value?.height ?? 0 })),
    dot: computed(() => about.value?.dot ?? 0),
    inks: stable(() => about.value?.inks ?? []),
    mixes: computed(() => about.value?.mixes ?? false),
    mostLegends: computed(() => about.value?.mostLegends ?? 1),
    problem,
    hurry: drawHere,
    again: ask,
  }
}

/** When the hand did what the strip now follows: the last input, where that was just now. */
function useInputTime() {
  let last = 0
  const take = (event: Event) => (last = event.timeStamp)
  for (const name of ['pointermove', 'pointerdown', 'keydown', 'input'] as const)
    useEventListener(window, name, take, { capture: true, passive: true })
  return {
    get value() {
      const now = performance.now()
      return now - last < 1000 ? last : now
    },
  }
}

/** A value that stays the same object as long as it says the same, so that nothing is drawn anew for it. */
function stable<T>(get: () => T) {
  let last: T
  let text = ''
  return computed(() => {
    const now = get()
    const said = JSON.stringify(now)
    if (said !== text) [last, text] = [now, said]
    return last
  })
}
