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

/** Whether decimals are written with a comma where this person is. */
function writesComma(): boolean {
  return new Intl.NumberFormat()
    .formatToParts(0.5)
    .some((part) => part.type === 'decimal' && part.value === ',')
}

/** A typed answer as it is kept: a number has a point. */
export function asKept(kind: string, typed: string): string {
  const bare = typed.trim()
  return kind === 'number' && writesComma() && /^[+-]?\d*,\d+$/.test(bare) ? bare.replace(',', '.') : typed
}

/** A kept answer as this person writes it. */
export function asTyped(kind: string, kept: string): string {
  return kind === 'number' && writesComma() && /^[+-]?\d*\.\d+$/.test(kept) ? kept.replace('.', ',') : kept
}

/** Micrometres of a unit, as people write it. */
const unitSizes: Record<string, number> = {
  mm: 1000,
  cm: 10_000,
  in: 25_400,
  '"': 25_400,
  '″': 25_400,
  inch: 25_400,
  inches: 25_400,
  pt: 25_400 / 72,
}
const longest = 100_000_000

/** A number with point or comma, a fraction, or both: 1 1/2; NaN when it is none. */
function typedNumber(text: string): number {
  const decimal = (of = '') => (/^(\d+[.,]?\d*|[.,]\d+)$/.test(of) ? Number(of.replace(',', '.')) : NaN)
  const [whole, fraction, more] = /^\S+\/\S+$/.test(text) ? ['0', text] : text.split(/\s+/)
  if (fraction === undefined) return decimal(whole)
  const [over, under, rest] = fraction.split('/')
  return more === undefined && rest === undefined ? decimal(whole) + decimal(over) / decimal(under) : NaN
}

/**
 * Reads a length as people type it, in micrometres: 76, 7,6 cm, 4 in, 1 1/2 in, 9 pt; undefined when it is none.
 * It takes what core/measure takes, and is held to the same table.
 */
export function parseLength(text: string): number | undefined {
  const [, sign = '', number = '', unit = ''] = /^([-−+]?)\s*(.*?)\s*([a-z"″]*)$/i.exec(text.trim()) ?? []
  const size = unitSizes[unit.toLowerCase() || units.value]
  const micrometres = Math.round(typedNumber(number) * (size ?? NaN))
  if (!(micrometres <= longest)) return undefined
  return micrometres && /[-−]/.test(sign) ? -micrometres : micrometres
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
