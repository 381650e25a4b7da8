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
    {
      path: '/purchase',
      component: () => import('./views/TogetherView.vue'),
      meta: { title: 'Bought together' },
    },
    { path: '/shelf', component: () => import('./views/ShelfView.vue'), meta: { title: 'Shelf' } },
    {
      path: '/shelf/media',
      component: () => import('./views/MediaView.vue'),
      meta: { title: 'Media and tools' },
    },
    {
      path: '/shelf/systems',
      component: () => import('./views/SystemsView.vue'),
      meta: { title: 'Systems' },
    },
    {
      path: '/shelf/compare',
      component: () => import('./views/CompareView.vue'),
      meta: { title: 'Side by side' },
    },
    {
      path: '/shelf/read',
      component: () => import('./views/ShelfImport.vue'),
      meta: { title: 'Read sheets' },
    },
    { path: '/shelf/new', component: () => import('./views/ProductEdit.vue'), meta: { title: 'New sheet' } },
    {
      path: '/shelf/p/:id',
      component: () => import('./views/ProductView.vue'),
      props: true,
      meta: { title: 'Data sheet' },
    },
    {
      path: '/shelf/p/:id/edit',
      component: () => import('./views/ProductEdit.vue'),
      props: true,
      meta: { title: 'Data sheet' },
    },
    {
      path: '/bench/:id?',
      component: () => import('./views/BenchView.vue'),
      props: true,
      meta: { title: 'Bench' },
    },
    { path: '/stock', component: () => import('./views/StockView.vue'), meta: { title: 'Stock' } },
    { path: '/house', component: () => import('./views/HouseView.vue'), meta: { title: 'House methods' } },
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
