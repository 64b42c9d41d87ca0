/**
 * The core in the page itself, beside the one in the worker: it draws the label that a hand moves at once, in the frame in which the hand
 * moves it. Whatever else is drawn or judged is the worker's.
 */
import './wasm_exec.js'
import type { Design } from '@/api/documents'
import type { FontFile } from './messages'

export interface Drawn {
  width: number
  height: number
  face: string
  layers: string[]
  dots: Uint8Array<ArrayBuffer>
}
interface Absent {
  absent?: string
  absentPicture?: string
  absentSymbol?: string
  error?: string
}
interface Page {
  Go: new () => { importObject: WebAssembly.Imports; run: (instance: WebAssembly.Instance) => Promise<void> }
  oddcoreReady: () => void
  oddcore: {
    typefaces: (files: string) => undefined
    typeface: (hash: string, bytes: Uint8Array) => undefined
    picture: (hash: string, bytes: Uint8Array) => Absent | undefined
    symbol: (id: string, bytes: Uint8Array) => Absent | undefined
    hand: (document: string, fields: string, values: string) => Absent & Drawn
    moved: (changed: string, values: string) => Absent & Drawn
    beside: (values: string) => Absent & Omit<Drawn, 'face' | 'layers'>
  }
}

export interface Hand {
  /** Brings the typefaces and pictures of a design, so that its labels are drawn at once when a hand comes. */
  prepare: (document: string, fields: string, values: string) => Promise<void>
  /** Draws a label; undefined while it cannot: then the worker does. Of a design that was drawn before, only what changed goes in. */
  draw: (design: Design, fields: string, values: string) => Drawn | undefined
  /** Draws the label of another record, of the design that was drawn last. */
  beside: (values: string) => Omit<Drawn, 'face' | 'layers'> | undefined
}

const isWhole = ({ error, absent, absentPicture, absentSymbol }: Absent) =>
  error === undefined && absent === undefined && absentPicture === undefined && absentSymbol === undefined

export async function startHand(files: FontFile[], module: WebAssembly.Module): Promise<Hand> {
  const page = window as unknown as Page
  const go = new page.Go()
  const ready = new Promise<void>((resolve) => (page.oddcoreReady = resolve))
  void go.run(await WebAssembly.instantiate(module, go.importObject))
  await ready
  const { oddcore } = page
  oddcore.typefaces(JSON.stringify(files))
  const asked = new Set<string>()

  async function bring(address: string, take: (bytes: Uint8Array) => void) {
    if (asked.has(address)) return
    asked.add(address)
    const response = await fetch(address)
    if (response.ok) take(new Uint8Array(await response.arrayBuffer()))
  }
  async function prepare(document: string, fields: string, values: string) {
    for (let tries = 0; tries < 40; tries++) {
      const { absent, absentPicture, absentSymbol } = oddcore.hand(document, fields, values)
      if (absent !== undefined)
        await bring(`/api/typefaces/files/${absent}`, (bytes) => oddcore.typeface(absent, bytes))
      else if (absentPicture !== undefined)
        await bring(`/api/pictures/${absentPicture}`, (bytes) => oddcore.picture(absentPicture, bytes))
      else if (absentSymbol !== undefined)
        await bring(`/api/symbols/${absentSymbol}/drawing`, (bytes) => oddcore.symbol(absentSymbol, bytes))
      else return
    }
  }
  /** What the core in the page holds: the design but for its elements, and each of these. */
  let held: { rest: string; elements: string[] } | undefined
  return {
    prepare: (document, fields, values) => {
      held = undefined
      return prepare(document, fields, values)
    },
    draw(design, fields, values) {
      const now = {
        rest: fields + JSON.stringify({ ...design, elements: [] }),
        elements: design.elements.map((e) => JSON.stringify(e)),
      }
      const same = held && held.rest === now.rest && held.elements.length === now.elements.length
      const changed = now.elements.flatMap((element, at) =>
        element === held?.elements[at] ? [] : `{"at":${String(at)},"element":${element}}`,
      )
      const answer = same
        ? oddcore.moved(`[${changed.join(',')}]`, values)
        : oddcore.hand(JSON.stringify(design), fields, values)
      if (isWhole(answer)) {
        held = now
        return answer
      }
      held = undefined
      void prepare(JSON.stringify(design), fields, values)
      return undefined
    },
    beside(values) {
      const answer = held && oddcore.beside(values)
      return answer && isWhole(answer) ? answer : undefined
    },
  }
}
