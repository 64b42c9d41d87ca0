import '@fontsource/ibm-plex-sans/400.css'
import '@fontsource/ibm-plex-sans/500.css'
import '@fontsource/ibm-plex-sans/600.css'
import '@fontsource/ibm-plex-mono/400.css'
import '@fontsource/ibm-plex-mono/500.css'
import './style.css'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'

// The place's own code comes in while it is asked who is signed in.
for (const { components } of router.resolve(location.pathname + location.search).matched)
  if (typeof components?.default === 'function') void (components.default as () => Promise<unknown>)()

createApp(App).use(router).mount('#app')
