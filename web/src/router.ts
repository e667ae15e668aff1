import { createRouter, createWebHistory } from 'vue-router'
import { useSession } from '@/account/session'

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'recordings', component: () => import('@/recordings/Recordings.vue') },
    { path: '/sign-in', name: 'sign-in', component: () => import('@/account/SignIn.vue') },
    { path: '/recordings/:id', name: 'desk', component: () => import('@/desk/Desk.vue'), props: true },
    { path: '/record', name: 'record', component: () => import('@/record/Record.vue') },
    { path: '/record/free', name: 'record-free', component: () => import('@/record/ScriptPage.vue') },
    { path: '/record/:id', name: 'script', component: () => import('@/record/ScriptPage.vue'), props: true },
    { path: '/drafts', name: 'drafts', component: () => import('@/drafts/Drafts.vue') },
    { path: '/drafts/:id', name: 'draft', component: () => import('@/drafts/DraftPage.vue'), props: true },
    { path: '/shelf', name: 'shelf', component: () => import('@/shelf/Shelf.vue') },
    { path: '/clips/:id', name: 'sheet', component: () => import('@/sheet/Sheet.vue'), props: true },
    {
      path: '/deliveries', component: () => import('@/deliveries/Deliveries.vue'), children: [
        { path: '', name: 'board', component: () => import('@/deliveries/Board.vue') },
        { path: 'calendar', name: 'calendar', component: () => import('@/deliveries/Calendar.vue') },
        { path: 'outbox', name: 'outbox', component: () => import('@/deliveries/Outbox.vue') },
        { path: 'feed/:account', name: 'feed', component: () => import('@/deliveries/Feed.vue'), props: true },
      ],
    },
    { path: '/review/:token', name: 'review', component: () => import('@/review/ReviewPage.vue'), props: true, meta: { open: true } },
    { path: '/:anything(.*)*', name: 'nowhere', component: () => import('@/shared/Nowhere.vue') },
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
  if (to.meta.open) return // for who has the link, signed in or not
  if (!session.user && to.name !== 'sign-in') return { name: 'sign-in', query: { to: to.fullPath } }
  if (session.user && to.name === 'sign-in') return { name: 'recordings' }
})
