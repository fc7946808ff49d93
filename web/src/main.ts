import 'vuetify/styles'
import '@fontsource-variable/ibm-plex-sans'
import '@fontsource-variable/source-serif-4'
import './styles/ledger.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import App from './App.vue'
import { router } from './router'
import { themes } from './theme'

const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: themes,
  defaults: {
    VBtn: { variant: 'flat', color: 'primary', rounded: 'sm', density: 'comfortable' },
    VTextField: {
      variant: 'underlined',
      density: 'compact',
      color: 'primary',
      hideDetails: 'auto',
      persistentHint: true,
    },
    VSelect: { variant: 'underlined', density: 'compact', color: 'primary', hideDetails: 'auto', persistentHint: true },
  },
})

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')

// What is being typed when the page goes, or is left for the sign-in, is put down first: a field keeps it when it is left.
window.addEventListener('pagehide', () => (document.activeElement as HTMLElement | null)?.blur())
