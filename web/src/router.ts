import { createRouter, createWebHistory } from 'vue-router'
import { useSession } from './stores/session'

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'recordings', component: () => import('./views/Recordings.vue') },
    { path: '/sign-in', name: 'sign-in', component: () => import('./views/SignIn.vue') },
    { path: '/recordings/:id', name: 'desk', component: () => import('./views/Desk.vue'), props: true },
    { path: '/shelf', name: 'shelf', component: () => import('./views/Shelf.vue') },
    { path: '/clips/:id', name: 'sheet', component: () => import('./views/Sheet.vue'), props: true },
    { path: '/:anything(.*)*', name: 'nowhere', component: () => import('./views/Nowhere.vue') },
  ],
})

/** After going somewhere, the focus is where the work goes on: on what the view marks, or on its whole. */
router.afterEach((to, from) => {
  if (to.name === from.name && to.path === from.path) return
  requestAnimationFrame(() => {
    const main = document.querySelector<HTMLElement>('main')
    if (!main?.contains(document.activeElement)) main?.focus()
  })
})

router.beforeEach(async (to) => {
  const session = useSession()
  await session.load()
  if (!session.user && to.name !== 'sign-in') return { name: 'sign-in', query: { to: to.fullPath } }
  if (session.user && to.name === 'sign-in') return { name: 'recordings' }
})
