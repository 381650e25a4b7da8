import { createRouter, createWebHistory } from 'vue-router'
import { useSession } from './stores/session'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/jobs' },
    {
      path: '/sign-in',
      component: () => import('./views/SignInView.vue'),
      meta: { open: true, title: 'Sign in' },
    },
    { path: '/jobs', component: () => import('./views/JobsView.vue'), meta: { title: 'Jobs' } },
    {
      path: '/jobs/:id',
      component: () => import('./views/JobView.vue'),
      props: true,
      meta: { title: 'Job' },
    },
    {
      path: '/jobs/:id/cards',
      component: () => import('./views/CardsView.vue'),
      props: true,
      meta: { title: 'Mix cards' },
    },
    {
      path: '/jobs/:id/sheets',
      component: () => import('./views/SheetView.vue'),
      props: true,
      meta: { title: 'Measuring sheets' },
    },
    { path: '/shelf', component: () => import('./views/ShelfView.vue'), meta: { title: 'Shelf' } },
    { path: '/people', component: () => import('./views/PeopleView.vue'), meta: { title: 'People' } },
    {
      path: '/:rest(.*)*',
      component: () => import('./views/LostView.vue'),
      meta: { open: true, title: 'Not found' },
    },
  ],
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
})

router.beforeEach(async (to) => {
  const session = useSession()
  if (to.meta.open) return true
  if (!session.asked) {
    try {
      await session.ask()
    } catch {
      return session.me ? true : { path: '/sign-in', query: { next: to.fullPath } }
    }
  }
  return session.me ? true : { path: '/sign-in', query: { next: to.fullPath } }
})

router.afterEach((to) => {
  document.title = `${String(to.meta.title ?? '')} · Nephelon`
})
