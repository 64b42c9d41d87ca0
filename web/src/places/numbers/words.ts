import type { Schemas } from '@/api/client'

type State = Schemas['NumberState']

/** What became of a number, in the order of an account; what was taken is the sum of all. */
export const fates: readonly { state: State; words: string; means: string }[] = [
  { state: 'open', words: 'open', means: 'not printed yet' },
  { state: 'printed', words: 'printed', means: 'on a label that came out' },
  { state: 'spoiled', words: 'spoiled', means: 'their labels came out spoiled' },
  { state: 'voided', words: 'void', means: 'no label has them' },
  { state: 'returned', words: 'returned', means: 'never at a printer, and taken again' },
]
export const fateWords = Object.fromEntries(fates.map((f) => [f.state, f.words])) as Record<State, string>

/** What becomes of numbers that a run took and does not print. */
export const unusedOptions: { value: Schemas['Unused']; label: string }[] = [
  { value: 'return', label: 'are taken by a later run' },
  { value: 'void', label: 'are void' },
]

/** Which number a label has that is made again. */
export const badTagOptions: { value: Schemas['BadTag']; label: string }[] = [
  { value: 'same', label: 'its label keeps the number' },
  { value: 'new', label: 'its label has the next one' },
]

/** Labels of a run, as a link says them. */
export const labelsText = (n: Schemas['TakenNumber']) =>
  n.firstLabel === n.lastLabel
    ? `label ${String(n.firstLabel)}`
    : `labels ${String(n.firstLabel)} to ${String(n.lastLabel)}`
