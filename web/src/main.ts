import '@fontsource/ibm-plex-mono/400.css'
import '@fontsource/instrument-sans/400.css'
import '@fontsource/instrument-sans/500.css'
import '@fontsource/instrument-sans/600.css'
import '@fontsource/literata/400.css'
import '@fontsource/literata/600.css'
import 'element-plus/theme-chalk/base.css'
import 'element-plus/theme-chalk/el-message.css'
import 'element-plus/theme-chalk/el-message-box.css'
import './theme.css'

import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { listen } from '@/commands/registry'
import { keepFocus } from '@/shared/focus'
import { warnBeforeLeaving } from '@/shared/useUnsent'
import { router } from './router'

listen()
warnBeforeLeaving()
keepFocus()
createApp(App)
  .use(createPinia())
  .use(router)
  .use(VueQueryPlugin, { queryClientConfig: { defaultOptions: { queries: { retry: 1, staleTime: 1000 } } } })
  .mount('#app')
