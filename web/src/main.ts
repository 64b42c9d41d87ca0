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
import { askWho } from './session'

// Code that cannot be had: the server may have another page by now, or not answer for the moment.
addEventListener('vite:preloadError', () => void askWho())

// The place's own code comes in while it is asked who is signed in.
readCode(router, location.pathname + location.search)
askWhenNear(router)

createApp(App).use(router).mount('#app')
