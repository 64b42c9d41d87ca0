import type { Schemas } from '@/api/client'

/** States of a run in words, each with a mark, so that colour never stands alone. */
export const stateWords: Record<Schemas['RunEntry']['state'], { name: string; mark: string; tone: string }> =
  {
    prepared: { name: 'prepared', mark: '○', tone: 'quiet' },
    printing: { name: 'printing', mark: '●', tone: 'good' },
    held: { name: 'held', mark: '■', tone: 'bad' },
    printed: { name: 'printed', mark: '✓', tone: 'good' },
    cancelled: { name: 'cancelled', mark: '×', tone: 'quiet' },
    part: { name: 'printed in part', mark: '◐', tone: 'warn' },
  }

export const kindWords: Record<Schemas['Print']['kind'], string> = {
  sample: 'sample',
  rest: 'the rest',
  all: 'all again',
  again: 'again',
}
