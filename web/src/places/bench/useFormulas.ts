import { type Ref, shallowRef } from 'vue'
import { api, type Schemas } from '@/api/client'

const formulas = shallowRef<Schemas['Formulas']>({ functions: [], changes: [], facts: [] })
let asked: Promise<void> | undefined

/** The functions of formulas and the changes of values, which the server is asked for once. */
export function useFormulas(): Readonly<Ref<Schemas['Formulas']>> {
  asked ??= api.GET('/formulas').then(({ data }) => {
    if (data) formulas.value = data
    else asked = undefined
  })
  return formulas
}
