import { api } from '@/api/client'
import { useAsked } from '@/shared/useAsked'
import type { Doing } from '@/shared/useDoing'
import { freePlace } from './elements'
import { asPart, type Part, sharedOf, withNewest, withPart } from './parts'
import type { Bench } from './useBench'

/** What is done on the Bench with parts that several designs share. */
export function useParts(bench: Bench, doing: Doing['doing']) {
  /** Parts that several designs share. */
  const { data: parts, refresh: loadParts } = useAsked((signal) => api.GET('/parts', { signal }))
  function putPart(id: number) {
    const part = parts.value?.find((p) => p.id === id)
    if (!part || !bench.design.value) return
    const made = withPart(bench.design.value, part, freePlace(bench.design.value))
    bench.become(made.design, made.ids)
  }
  async function sharePart() {
    const name = bench.group.value[0]?.group
    if (!name || !bench.design.value) return
    const body = { name, elements: asPart(bench.group.value) as unknown as Part['elements'] }
    const { data } = await doing(() => api.POST('/parts', { body }))
    if (!data) return
    const shared = { group: name, part: data.id, version: data.version }
    const ids = bench.group.value.map((e) => e.id)
    bench.become({ ...bench.design.value, parts: [...(bench.design.value.parts ?? []), shared] }, ids)
    await loadParts()
  }
  function takePart(part: Part) {
    const name = bench.group.value[0]?.group
    if (!name || !bench.design.value) return
    const made = withNewest(bench.design.value, name, part)
    bench.become(made.design, made.ids)
  }
  async function givePart(part: Part) {
    const name = bench.group.value[0]?.group
    const shared = bench.design.value && sharedOf(bench.design.value, name)
    if (!shared || !bench.design.value) return
    const body = {
      version: shared.version,
      elements: asPart(bench.group.value) as unknown as Part['elements'],
    }
    const { data } = await doing(() => api.PUT('/parts/{id}', { params: { path: { id: part.id } }, body }))
    if (!data) return
    const ids = bench.group.value.map((e) => e.id)
    const all = (bench.design.value.parts ?? []).map((p) =>
      p.group === name ? { ...p, version: data.version } : p,
    )
    bench.become({ ...bench.design.value, parts: all }, ids)
    await loadParts()
  }

  return { parts, putPart, sharePart, takePart, givePart }
}
