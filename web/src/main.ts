import '@fontsource/ibm-plex-sans/400.css'
import '@fontsource/ibm-plex-sans/500.css'
import '@fontsource/ibm-plex-sans/600.css'
import '@fontsource/ibm-plex-mono/400.css'
import '@fontsource/ibm-plex-mono/500.css'
import './style.css'
import { createApp } from 'vue'
import App from './App.vue'
import { askWhenNear, readCode } from './ahead'
import { router } from './router'
import { loadAnew } from './session'

// Code that the server no longer has is of an earlier version, and so is the page.
addEventListener('vite:preloadError', (event) => {
  loadAnew(event.payload.message)
})

// The place's own code comes in while it is asked who is signed in.
readCode(router, location.pathname + location.search)
askWhenNear(router)

createApp(App).use(router).mount('#app')
