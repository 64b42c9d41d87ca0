import { shallowRef, watchEffect } from 'vue'
import { api, type Schemas, signedOut } from './api/client'
import { units } from './shared/format'
import { forgetSeen } from './strip/lastSeen'

/** Who is signed in; undefined while it is not known, empty when nobody is. */
export const user = shallowRef<string>()

/** Who was signed in here last: the page is made for them while it is asked whether they still are. */
const storage = 'session'
watchEffect(() => {
  if (user.value) localStorage.setItem(storage, JSON.stringify({ name: user.value, units: units.value }))
  else if (user.value === '') {
    localStorage.removeItem(storage)
    forgetSeen()
  }
})

/** Somebody is signed in. A page that was kept since an earlier version of the server is loaded anew, once. */
export function signedIn({ name, units: theirs, page }: Schemas['Session']) {
  user.value = name
  units.value = theirs
  const mine = document.querySelector('script[type=module]')?.getAttribute('src')
  if (!page || !mine?.startsWith('/assets/') || mine === page || sessionStorage.getItem('loadedFor') === page)
    return
  sessionStorage.setItem('loadedFor', page)
  location.reload()
}

/** Asks the server who is signed in. */
export async function askWho() {
  const { data, response } = await api.GET('/session')
  if (data) signedIn(data)
  else if (user.value && response.status === 401) signedOut()
  else user.value ??= ''
}

export async function whoIsIt(): Promise<string> {
  if (user.value !== undefined) return user.value
  const last = localStorage.getItem(storage)
  if (!last) {
    await askWho()
    return user.value ?? ''
  }
  const { name, units: theirs } = JSON.parse(last) as Pick<Schemas['Session'], 'name' | 'units'>
  user.value = name
  units.value = theirs
  void askWho()
  return name
}
