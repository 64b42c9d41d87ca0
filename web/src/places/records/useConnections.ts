import { computed, type ComputedRef, type Ref, ref } from 'vue'
import { api, type Problem, type Schemas } from '@/api/client'
import { useAsked } from '@/shared/useAsked'

export interface Connections {
  list: ComputedRef<Schemas['Connection'][]>
  options: ComputedRef<{ value: number; label: string }[]>
  chosen: Ref<number | undefined>
  connection: ComputedRef<Schemas['Connection'] | undefined>
  asked: ComputedRef<boolean>
  problem: Readonly<Ref<Problem | undefined>>
  refresh: () => Promise<void>
}

/** The connections of some kinds, one of which is chosen: the first unless told otherwise. */
export function useConnections(fits: (kind: Schemas['ConnectionKind']) => boolean): Connections {
  const { data, problem, refresh } = useAsked(() => api.GET('/connections'))
  const list = computed(() => data.value?.filter((c) => fits(c.place.kind)) ?? [])
  const wanted = ref<number>()
  const connection = computed(() => list.value.find((c) => c.id === wanted.value) ?? list.value[0])
  const chosen = computed({ get: () => connection.value?.id, set: (id) => (wanted.value = id) })
  const options = computed(() => list.value.map((c) => ({ value: c.id, label: c.name })))
  return { list, options, chosen, connection, asked: computed(() => !!data.value), problem, refresh }
}
