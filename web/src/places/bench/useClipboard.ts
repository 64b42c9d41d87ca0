import { useEventListener } from '@vueuse/core'
import { type MaybeRefOrGetter, toValue } from 'vue'
import { asText, fromText } from './clipboard'
import { duplicates } from './elements'
import type { Bench } from './useBench'

interface Clipboard {
  bench: Bench
  /** Fields of the records, which those of pasted elements are matched to. */
  fields: MaybeRefOrGetter<readonly string[]>
  /** Takes text that is no elements. */
  paste: (text: string) => void
  bringIn: (file: File) => Promise<void>
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.closest('input, textarea, [contenteditable]') !== null
const mostText = 5000

/** Copies, cuts and pastes elements, pictures and text, unless somebody types. */
export function useClipboard({ bench, fields, paste, bringIn }: Clipboard) {
  function copyOut(event: ClipboardEvent) {
    const chosen = bench.group.value
    if (isTyping(event.target) || !chosen.length || document.getSelection()?.toString()) return
    event.clipboardData?.setData('text/plain', asText(chosen))
    event.preventDefault()
    if (event.type === 'cut') bench.remove(...chosen.map((e) => e.id))
  }
  function pasteIn(event: ClipboardEvent) {
    const design = bench.design.value
    if (isTyping(event.target) || !design) return
    const file = event.clipboardData?.files[0]
    const text = event.clipboardData?.getData('text/plain') ?? ''
    const elements = fromText(text, toValue(fields))
    const here = new Set(design.elements.map((e) => e.id))
    if (file) void bringIn(file)
    else if (elements)
      bench.add(...duplicates(design, elements, elements.some((e) => here.has(e.id)) ? 2000 : 0))
    else if (text) paste(text.slice(0, mostText))
    else return
    event.preventDefault()
  }
  useEventListener(document, ['copy', 'cut'], copyOut)
  useEventListener(document, 'paste', pasteIn)
}
