import './styles/reset.css'
import '@fontsource-variable/archivo/wght.css'
import 'vuetify/styles/core'
import 'vuetify/styles/utilities'
import './styles/base.css'
import './styles/fields.css'
import './styles/print.css'
import { createPinia } from 'pinia'
import { setAutoFreeze } from 'immer'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { vuetify } from './vuetify'

// Pages hand things to an edit that they go on using; they must not find them frozen.
setAutoFreeze(false)

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')
