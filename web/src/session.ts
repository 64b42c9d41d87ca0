import { shallowRef } from 'vue'
import { api } from './api/client'
import { units } from './shared/format'

/** Who is signed in; undefined while it is not known, empty when nobody is. */
export const user = shallowRef<string>()

export async function whoIsIt(): Promise<string> {
  if (user.value === undefined) {
    const { data } = await api.GET('/session')
    user.value = data?.name ?? ''
    if (data) units.value = data.units
  }
  return user.value
}
