import { type Ref, shallowRef } from 'vue'
import { api, type Schemas } from '@/api/client'

const guides = shallowRef<Schemas['Symbology'][]>([])
let asked: Promise<void> | undefined

/** Every symbology with its guide, which the server is asked for once. */
export function useSymbologies(): Readonly<Ref<readonly Schemas['Symbology'][]>> {
  asked ??= api.GET('/symbologies').then(({ data }) => {
    guides.value = data ?? []
    if (!data) asked = undefined
  })
  return guides
}
