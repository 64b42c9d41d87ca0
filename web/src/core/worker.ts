/**
 * The core in a worker of its own: it is told the font files there are, then draws labels as they are asked for. The
 * newest question counts; the label in hand comes first.
 */
import './wasm_exec.js'
import { type Asked, type FontFile, mostDots, type Told } from './messages'
import coreUrl from './core.wasm?url'

interface Absent {
  absent?: string
  absentPicture?: string
  absentSymbol?: string
  error?: string
}
interface Size {
  width: number
  height: number
  layers: string[]
}
interface OddCore {
  typefaces: (files: string) => undefined
  typeface: (hash: string, bytes: Uint8Array) => undefined
  picture: (hash: string, bytes: Uint8Array) => Absent | undefined
  symbol: (id: string, bytes: Uint8Array) => Absent | undefined
  open: (document: string, fields: string) => Absent & { about: string }
  dots: (values: string) => Absent & { width: number; height: number; dots: Uint8Array<ArrayBuffer> }
  draw: (record: number, values: string) => Absent & { label: string; dots: Uint8Array<ArrayBuffer> }
}
declare const self: {
  postMessage: (told: Told, transfer: Transferable[]) => void
  onmessage: (event: MessageEvent<Asked>) => void
  Go: new () => { importObject: WebAssembly.Imports; run: (instance: WebAssembly.Instance) => Promise<void> }
  oddcore: OddCore
  oddcoreReady: () => void
}

const tell = (what: Told, transfer: Transferable[] = []) => self.postMessage(what, transfer)

async function start(files: FontFile[]) {
  const go = new self.Go()
  const ready = new Promise<void>((resolve) => (self.oddcoreReady = resolve))
  const module = await WebAssembly.compileStreaming(fetch(coreUrl))
  void go.run(await WebAssembly.instantiate(module, go.importObject))
  await ready
  self.oddcore.typefaces(JSON.stringify(files))
  tell({ kind: 'ready', module })
}

async function bytesAt(address: string) {
  const response = await fetch(address)
  if (!response.ok) throw new Error(`${address} cannot be had.`)
  return new Uint8Array(await response.arrayBuffer())
}

/** Calls, and brings the font files and pictures that are needed first. */
async function call<T extends Absent>(ask: () => T): Promise<T> {
  for (;;) {
    const answer = ask()
    if (answer.error !== undefined) throw new Error(answer.error)
    if (answer.absent !== undefined) {
      self.oddcore.typeface(answer.absent, await bytesAt(`/api/typefaces/files/${answer.absent}`))
    } else if (answer.absentPicture !== undefined) {
      const hash = answer.absentPicture
      const refused = self.oddcore.picture(hash, await bytesAt(`/api/pictures/${hash}`))
      if (refused?.error !== undefined) throw new Error(refused.error)
    } else if (answer.absentSymbol !== undefined) {
      const id = answer.absentSymbol
      const refused = self.oddcore.symbol(id, await bytesAt(`/api/symbols/${id}/drawing`))
      if (refused?.error !== undefined) throw new Error(refused.error)
    } else {
      return answer
    }
  }
}

/** Lets what was asked meanwhile come in. */
function breathe(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      resolve()
    }
    port2.postMessage(undefined)
  })
}

let newest: Extract<Asked, { kind: 'draw' }> | undefined
let busy = false
/** Milliseconds that a hand that goes on moving waits at most for what is said of its label. */
const longestUnjudged = 250
let lastJudged = 0

async function work() {
  if (busy) return
  busy = true
  while (newest) {
    const asked = newest
    newest = undefined
    try {
      const { about } = await call(() => self.oddcore.open(asked.document, asked.fields))
      const { width: across, height: down, layers } = JSON.parse(about) as Size
      if (across * down * layers.length > mostDots)
        throw new Error('The label is too large to be drawn here.')
      // What is seen comes before what is judged, and what the hand waits for before its neighbours.
      for (const { record, values } of asked.drawn ? asked.labels.slice(1) : asked.labels) {
        const { width, height, dots } = await call(() => self.oddcore.dots(values))
        tell({ kind: 'dots', round: asked.round, about, record, width, height, dots }, [dots.buffer])
      }
      await breathe()
      for (const { record, values } of asked.labels) {
        if (newest && performance.now() - lastJudged < longestUnjudged) break
        const { label } = await call(() => self.oddcore.draw(record, values))
        tell({ kind: 'judged', round: asked.round, about, label })
        lastJudged = performance.now()
        await breathe()
        if (newest) break
      }
    } catch (error) {
      tell({
        kind: 'failed',
        round: asked.round,
        text: error instanceof Error ? error.message : String(error),
      })
    }
  }
  busy = false
}

self.onmessage = ({ data }: MessageEvent<Asked>) => {
  if (data.kind === 'start') {
    start(data.files).catch((error: unknown) => tell({ kind: 'broken', text: String(error) }))
  } else if (data.kind === 'typefaces') {
    self.oddcore.typefaces(JSON.stringify(data.files))
  } else {
    newest = data
    void work()
  }
}
