import { type Ref, shallowRef } from 'vue'
import { api, asForm, type Schemas } from '@/api/client'
import type { Doing } from '@/shared/useDoing'
import type { Strip } from '@/strip/useStrip'
import type { Division } from './arrange'
import {
  divided,
  duplicates,
  freePlace,
  type Kind,
  newElement,
  newFrame,
  newPicture,
  tagSays,
} from './elements'
import type { Bench } from './useBench'

/** What comes onto the label: fields, words, codes, shapes, pictures, copies, frames and many equal boxes. */
export function useAdding(
  bench: Bench,
  strip: Strip,
  art: () => { width: number; height: number },
  sets: Ref<Schemas['RecordSet'][]>,
  doing: Doing['doing'],
  pick: (what: 'picture' | 'symbol') => void, // asks which
) {
  const asked = shallowRef<{
    field: string
    at: { x: number; y: number }
    on?: string
    left: number
    top: number
  }>()

  function put(field: string, how: 'text' | 'code' | 'join', where?: { x: number; y: number }, on?: string) {
    if (!bench.design.value) return
    const target =
      how === 'join'
        ? bench.design.value.elements.find((e) => e.id === (on ?? bench.chosenId.value))
        : undefined
    if (target?.says) {
      bench.chosenId.value = target.id
      bench.change(target.id, { says: [...target.says, { field }] })
      bench.commit()
    } else if (how !== 'join') {
      bench.add(
        newElement(bench.design.value, art(), how, [{ field }], where ?? freePlace(bench.design.value)),
      )
    }
  }

  /** Dropped on an element a field is added to it; dropped on the label it is asked how. */
  function dropped(field: string, where: { x: number; y: number }, on: string | undefined, event: DragEvent) {
    if (on) put(field, 'join', where, on)
    else asked.value = { field, at: where, left: event.clientX, top: event.clientY }
  }
  function answer(how: 'text' | 'code') {
    const question = asked.value
    asked.value = undefined
    if (question) put(question.field, how, question.at)
  }

  function picked(event: Event) {
    const input = event.target as HTMLInputElement
    const [file] = input.files ?? []
    if (file) void bringIn(file)
    input.value = ''
  }
  /** Brings a picture in, and puts it on the label at its own size. */
  async function bringIn(file: File, where?: { x: number; y: number }) {
    if (!bench.design.value) return
    const { data } = await doing(() => api.POST('/pictures', asForm(file)))
    if (data) bench.add(newPicture(bench.design.value, art(), data, strip.dot.value, where))
  }

  function add(kind: Kind) {
    if (!bench.design.value) return
    if (kind === 'picture' || kind === 'symbol') {
      pick(kind)
      return
    }
    const says =
      kind === 'text'
        ? [{ text: 'Text' }]
        : kind === 'code'
          ? [{ text: '0001' }]
          : kind === 'tag'
            ? tagSays(bench.design.value)
            : []
    bench.add(newElement(bench.design.value, art(), kind, says, freePlace(bench.design.value)))
  }
  function addSymbol(symbol: Schemas['Symbol']) {
    if (!bench.design.value) return
    const made = newElement(bench.design.value, art(), 'symbol', [], freePlace(bench.design.value))
    const side = Math.min(made.width, made.height)
    if (symbol.reference) bench.design.value.reference ??= symbol.reference // it stays with the pack that it was made with
    bench.add({ ...made, width: side, height: side, symbol: { id: symbol.id } })
  }
  function copyAll() {
    if (bench.design.value && bench.group.value.length)
      bench.add(...duplicates(bench.design.value, bench.group.value))
  }

  /** A frame lies under what it stands round. */
  function frameRound() {
    if (!bench.design.value) return
    const made = newFrame(bench.design.value, bench.group.value)
    if (made.around?.length) bench.add(made)
  }

  /** A box becomes many equal ones, in one step. */
  async function divide(how: Division) {
    if (!bench.design.value || !bench.chosen.value) return
    if (how.content === 'records' && how.field && bench.recordSetId.value !== undefined) {
      const together = { fields: [how.field], size: how.rows * how.columns }
      const params = { path: { id: bench.recordSetId.value } }
      const { data } = await doing(() => api.POST('/record-sets/{id}/gather', { params, body: together }))
      if (!data) return
      sets.value = [data, ...sets.value]
      bench.recordSetId.value = data.id
      how = { ...how, fields: data.fields }
    }
    const made = divided(bench.design.value, bench.chosen.value, how)
    if (made.length) bench.replace(bench.chosen.value.id, made)
  }

  function paste(text: string) {
    if (bench.design.value)
      bench.add(newElement(bench.design.value, art(), 'text', [{ text }], freePlace(bench.design.value)))
  }

  return { asked, answer, put, dropped, picked, bringIn, add, addSymbol, copyAll, frameRound, divide, paste }
}
