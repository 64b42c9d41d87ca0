import { computed, type MaybeRefOrGetter, toValue } from 'vue'
import type { Design } from '@/api/documents'
import type { StripLabel } from './useStrip'

/** A label on the strip: where it lies along the web and how large it is, in pixels. */
export interface Place {
  key: string
  position: number
  record: number
  inHand: boolean
  width: number
  height: number
  at: number
}

export interface StripProps {
  readonly design: Design
  readonly dot: number
  readonly labels: ReadonlyMap<number, StripLabel>
  readonly order: readonly number[]
  readonly at: number
  readonly zoom: 'fit' | 'true'
}

/** The web to scale in a frame of so many pixels, with the labels that can be seen on it. */
export function useStripPlaces(
  props: StripProps,
  frameW: MaybeRefOrGetter<number>,
  frameH: MaybeRefOrGetter<number>,
) {
  const stock = computed(() => props.design.stock)
  const lying = computed(() => props.design.turn === 90 || props.design.turn === 270)
  const captionHeight = 26

  /** Micrometres in a dot. */
  const dot = computed(() => props.dot)

  /** The piece of a record as its artwork is read, in micrometres; as the stock has it until it is drawn. */
  function piece(record: number | undefined) {
    const label = record === undefined ? undefined : props.labels.get(record)
    if (label) return { width: label.width * dot.value, height: label.height * dot.value }
    const { width, length } = stock.value
    return lying.value ? { width: length, height: width } : { width, height: length }
  }
  const inHand = computed(() => piece(props.order[props.at]))
  const web = computed(
    () =>
      (lying.value ? inHand.value.height : inHand.value.width) +
      (stock.value.edgeLeft ?? 0) +
      (stock.value.edgeRight ?? 0),
  )

  /** The length that must be in sight; of a piece that grows as it is typed, in steps of 20 mm. */
  const longest = computed(() => {
    const length = lying.value ? inHand.value.width : inHand.value.height
    if (!stock.value.tape?.byContent) return Math.max(length, 1)
    return Math.ceil(Math.max(length, stock.value.length, 1) / 20_000) * 20_000
  })

  /** Pixels in a micrometre. Dots that come out nearly one to one are shown just so. */
  const scale = computed(() => {
    if (props.zoom === 'true') return 96 / 25_400
    const across = lying.value ? toValue(frameH) - 2 * captionHeight - 10 : toValue(frameW)
    const along = lying.value ? toValue(frameW) : toValue(frameH) - captionHeight
    const fit = Math.min(across / web.value, (along * 0.9) / longest.value)
    if (!dot.value) return Math.max(fit, 0.0005)
    const dots = 1 / dot.value
    const whole = Math.floor(fit / dots)
    return whole >= 1 && fit / dots < whole + 0.25 ? whole * dots : Math.max(fit, 0.0005)
  })

  const px = (length: number) => length * scale.value
  /** The clear tail of a wrap lies on the web behind its print zone, and is drawn there. */
  const tail = computed(() => px(stock.value.wrap?.tail ?? 0))
  const gap = computed(() => {
    const between = px(stock.value.gap)
    return lying.value
      ? Math.max(between, stock.value.kind === 'tape' ? 2 : 0)
      : Math.max(between, captionHeight)
  })
  const radius = computed(() => {
    if (stock.value.shape === 'circle' || stock.value.shape === 'ellipse') return '50%'
    return `${String(stock.value.shape === 'rounded' ? px(stock.value.cornerRadius ?? 0) : 0)}px`
  })
  const along = (record: number | undefined) => {
    const size = piece(record)
    return px(lying.value ? size.width : size.height)
  }

  /** Where the label in hand begins: the one before peeks out. */
  const handAt = computed(() => {
    const { width, height } = inHand.value
    if (!lying.value) return props.at === 0 ? 18 : Math.min(px(height) * 0.22, 60) + gap.value
    return Math.max(Math.min((toValue(frameW) - px(width)) / 2, px(width) * 0.5), Math.min(gap.value, 60))
  })
  const webSize = computed(() => px(web.value))

  const places = computed<Place[]>(() => {
    const room = lying.value ? toValue(frameW) : toValue(frameH)
    const made: Place[] = []
    const add = (position: number, at: number) => {
      const record = props.order[position]
      if (record === undefined) return
      const size = piece(record)
      made.push({
        key: String(record),
        position,
        record,
        inHand: position === props.at,
        width: px(size.width),
        height: px(size.height),
        at,
      })
    }
    let before = handAt.value
    for (let position = props.at - 1; position >= Math.max(props.at - 3, 0) && before > 0; position--) {
      before -= along(props.order[position]) + gap.value
      add(position, before)
    }
    let at = handAt.value
    for (let position = props.at; position < props.order.length && at < room; position++) {
      add(position, at)
      at += along(props.order[position]) + gap.value
    }
    return made.sort((a, b) => a.position - b.position)
  })

  /** Holes of a plate where they are on the artwork, in pixels. */
  const holes = computed(() => {
    const { width, length, plate } = stock.value
    return (plate?.holes ?? []).map((h) => {
      const turned = {
        0: [h.x, h.y],
        90: [h.y, width - h.x],
        180: [width - h.x, length - h.y],
        270: [length - h.y, h.x],
      }
      const [x = 0, y = 0] = turned[props.design.turn ?? 0]
      return {
        left: `${String(px(x - h.diameter / 2))}px`,
        top: `${String(px(y - h.diameter / 2))}px`,
        width: `${String(px(h.diameter))}px`,
        height: `${String(px(h.diameter))}px`,
      }
    })
  })
  /** What of a flag goes round the cable, as a share of its length. */
  const round = computed(() => {
    const flag = stock.value.flag
    return flag
      ? {
          from: (50 * (stock.value.length - flag.round)) / stock.value.length,
          size: (100 * flag.round) / stock.value.length,
        }
      : undefined
  })

  /** How many labels, from the one in hand on, there is room for. */
  const room = computed(() =>
    Math.max(
      1,
      Math.ceil(
        ((lying.value ? toValue(frameW) : toValue(frameH)) - handAt.value) /
          Math.max(along(props.order[props.at]) + gap.value, 1),
      ),
    ),
  )

  return { stock, lying, dot, scale, tail, radius, holes, round, webSize, places, room }
}
