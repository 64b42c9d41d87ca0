import { shallowRef, type ShallowRef } from 'vue'
import { api } from '@/api/client'
import { type Hand, startHand } from './hand'
import type { Asked, Told } from './messages'

export interface Core {
  /** The worker can draw. Until then, and where it cannot, the server does. */
  ready: Readonly<ShallowRef<boolean>>
  draw: (asked: Extract<Asked, { kind: 'draw' }>) => void
  /** The core in the page itself, for what a hand moves; undefined until it is there. */
  hand: Readonly<ShallowRef<Hand | undefined>>
  /** Tells the worker which typefaces there are now. */
  typefaces: () => Promise<void>
  /** Calls back with each label, and with what went wrong; returns what ends it. */
  onTold: (call: (told: Told) => void) => () => void
}

let core: Core | undefined

/** The core of this page: one worker, started when it is first asked for. */
export function useCore(): Core {
  return (core ??= startCore())
}

function startCore(): Core {
  const ready = shallowRef(false)
  const listeners = new Set<(told: Told) => void>()
  let worker: Worker | undefined
  const hand = shallowRef<Hand>()

  async function start() {
    if (typeof Worker === 'undefined' || typeof WebAssembly === 'undefined') return
    const { data: files } = await api.GET('/typefaces/files')
    if (!files) return
    worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
    const ask = (asked: Asked) => worker?.postMessage(asked)
    worker.onmessage = ({ data }: MessageEvent<Told>) => {
      if (data.kind === 'ready') {
        ready.value = true
        // Its own core comes after what is first seen; where it cannot, the worker does what it would.
        requestIdleCallback(() => {
          startHand(files, data.module).then(
            (started) => (hand.value = started),
            () => undefined,
          )
        })
        return
      }
      if (data.kind === 'broken') ready.value = false
      else for (const call of listeners) call(data)
    }
    worker.onerror = () => (ready.value = false)
    ask({ kind: 'start', files })
  }
  void start()

  return {
    ready,
    draw: (asked) => worker?.postMessage(asked),
    hand,
    async typefaces() {
      const { data: files } = await api.GET('/typefaces/files')
      if (files) worker?.postMessage({ kind: 'typefaces', files } satisfies Asked)
    },
    onTold(call) {
      listeners.add(call)
      return () => listeners.delete(call)
    },
  }
}
