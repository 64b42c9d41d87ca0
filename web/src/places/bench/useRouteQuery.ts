import { customRef, type Ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** A value kept in the address, changed at once and written there when the hand rests. */
export function useRouteQuery<T extends string>(name: string, otherwise: T): Ref<T> {
  const route = useRoute()
  const router = useRouter()
  const path = route.path
  const read = () => {
    const value = route.query[name]
    return (typeof value === 'string' && value ? value : otherwise) as T
  }
  let now = read()
  let timer: ReturnType<typeof setTimeout> | undefined
  return customRef<T>((track, trigger) => {
    watch(
      () => route.query[name],
      () => {
        if (timer || route.path !== path || read() === now) return
        now = read()
        trigger()
      },
    )
    return {
      get() {
        track()
        return now
      },
      set(value) {
        if (value === now) return
        now = value
        trigger()
        clearTimeout(timer)
        timer = setTimeout(() => {
          timer = undefined
          if (route.path !== path) return
          void router.replace({ query: { ...route.query, [name]: now === otherwise ? undefined : now } })
        }, 150)
      },
    }
  })
}
