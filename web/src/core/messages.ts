import type { Schemas } from '@/api/client'

export type FontFile = Schemas['FontFile']

/** What the page asks of the worker. Documents, fields and values are JSON: they go into the core as they are. */
export type Asked =
  | { kind: 'start'; files: FontFile[] }
  | { kind: 'typefaces'; files: FontFile[] } // there are others now
  | {
      kind: 'draw'
      round: number
      document: string
      fields: string
      labels: { record: number; values: string }[] // the label in hand first
      drawn: boolean // its dots are on the screen already
    }

/** Labels of more dots, in all their planes, are drawn by the server. */
export const mostDots = 12_000_000

/** What the worker tells. */
export type Told =
  | { kind: 'ready'; module: WebAssembly.Module } // what the page's own core is made of
  | { kind: 'broken'; text: string }
  | { kind: 'failed'; round: number; text: string }
  | {
      kind: 'dots'
      round: number
      about: string
      record: number
      width: number
      height: number
      dots: Uint8Array<ArrayBuffer>
    }
  | { kind: 'judged'; round: number; about: string; label: string } // its dots were told before
