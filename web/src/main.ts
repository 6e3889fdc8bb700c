import './core/early'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { applyTheme } from './composables/theme'
import { router } from './router'
import './style.css'

applyTheme()
createApp(App).use(createPinia()).use(router).mount('#app')
