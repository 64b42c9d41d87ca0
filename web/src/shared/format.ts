import { shallowRef } from 'vue'

/** What lengths are shown and typed in, as the person who is signed in chose. */
export const units = shallowRef<'mm' | 'in'>('mm')

/** A length without its unit. An inch is shown to as many figures more as it is longer. */
export function bareLength(micrometres: number, decimals = 1): string {
  return units.value === 'in'
    ? (micrometres / 25_400).toFixed(decimals + 2)
    : (micrometres / 1000).toFixed(decimals)
}

/** A length in micrometres as people read it. */
export function lengthText(micrometres: number, decimals = 1): string {
  return `${bareLength(micrometres, decimals)} ${units.value}`
}

/** Reads a length typed in millimetres, centimetres or inches; undefined when it is none. */
export function parseLength(text: string): number | undefined {
  const match = /^\s*(-?\d+(?:[.,]\d+)?)\s*(mm|cm|in|")?\s*$/.exec(text)
  if (!match?.[1]) return undefined
  const sizes: Record<string, number> = { mm: 1000, cm: 10_000, in: 25_400, '"': 25_400 }
  return Math.round(Number(match[1].replace(',', '.')) * (sizes[match[2] ?? units.value] ?? 1000))
}

/** Whole numbers with thousands apart. Here as with days: the browser's own tables of languages take longer to load than a page. */
export function count(n: number): string {
  return String(n).replace(/\B(?=(\d{3})+$)/g, ',')
}

export function plural(n: number, one: string, many = one + 's'): string {
  return `${count(n)} ${n === 1 ? one : many}`
}

/** What is left in a printer, as short as it can be told. */
export function amount(left: number, unit: 'labels' | 'sheets' | 'length'): string {
  return unit === 'length' ? `${(left / 1e6).toFixed(1)} m` : count(left)
}

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** A day, with its year where that is another. */
export function day(at: Date): string {
  const year = at.getFullYear() === new Date().getFullYear() ? '' : ` ${String(at.getFullYear())}`
  return `${String(at.getDate())} ${months[at.getMonth()] ?? ''}${year}`
}

/** A moment as short as it can be told: the time today, else the date as well. */
export function moment(iso: string): string {
  const at = new Date(iso)
  const time = [at.getHours(), at.getMinutes()].map((n) => String(n).padStart(2, '0')).join(':')
  return at.toDateString() === new Date().toDateString() ? time : `${day(at)} ${time}`
}

export function duration(seconds: number): string {
  if (seconds < 60) return `${String(seconds)} s`
  const minutes = Math.floor(seconds / 60)
  if (minutes < 60) return `${String(minutes)} min ${String(seconds % 60)} s`
  return `${String(Math.floor(minutes / 60))} h ${String(minutes % 60)} min`
}
