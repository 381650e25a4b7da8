import { until } from '@vueuse/core'
import { createRouter, createWebHistory } from 'vue-router'
import { steps } from './features/job/steps'
import { entriesRead } from './fields/useReader'
import { useSession } from './session/session'
import { useShownPath } from './shell/useShownPath'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/jobs' },
    {
      path: '/sign-in',
      component: () => import('./features/people/SignInPage.vue'),
      meta: { open: true, title: 'Sign in' },
    },
    {
      path: '/set-password',
      component: () => import('./features/people/SetPasswordPage.vue'),
      meta: { open: true, title: 'Set your password' },
    },
    {
      path: '/account',
      component: () => import('./features/people/AccountPage.vue'),
      meta: { title: 'Account' },
    },
    {
      path: '/start',
      component: () => import('./features/start/StartPage.vue'),
      meta: { title: 'Set-up', keeps: true },
    },
    { path: '/jobs', component: () => import('./features/home/HomePage.vue'), meta: { title: 'Jobs' } },
    {
      path: '/jobs/:id',
      component: () => import('./features/job/JobPage.vue'),
      props: true,
      redirect: (to) => `/jobs/${String(to.params.id)}/measure`,
      meta: { title: 'Job' },
      children: steps.map((s) => ({ path: s.id, component: s.page, meta: { title: s.name } })),
    },
    {
      path: '/jobs/:id/day/:coat?/:batch?',
      component: () => import('./features/jobday/JobDayPage.vue'),
      props: true,
      meta: { title: 'Job day', bare: true },
    },
    {
      path: '/jobs/:id/record',
      component: () => import('./features/record/RecordPage.vue'),
      props: true,
      meta: { title: 'Record' },
    },
    {
      path: '/jobs/:id/cards',
      component: () => import('./features/cards/CardsPage.vue'),
      props: true,
      meta: { title: 'Mix cards' },
    },
    {
      path: '/jobs/:id/running/:coat',
      component: () => import('./features/pour/RunningPage.vue'),
      props: true,
      meta: { title: 'Pour schedule' },
    },
    {
      path: '/jobs/:id/sheets',
      component: () => import('./features/measure/SheetPage.vue'),
      props: true,
      meta: { title: 'Measuring sheets' },
    },
    {
      path: '/purchase',
      component: () => import('./features/kits/TogetherPage.vue'),
      meta: { title: 'Combined purchase' },
    },
    {
      path: '/roster',
      component: () => import('./features/roster/RosterPage.vue'),
      meta: { title: 'Roster' },
    },
    {
      path: '/records',
      component: () => import('./features/record/RecordsPage.vue'),
      meta: { title: 'Records' },
    },
    { path: '/shelf', component: () => import('./features/shelf/ShelfPage.vue'), meta: { title: 'Shelf' } },
    {
      path: '/shelf/media',
      component: () => import('./features/shelf/MediaPage.vue'),
      meta: { title: 'Media and tools' },
    },
    {
      path: '/shelf/systems',
      component: () => import('./features/shelf/SystemsPage.vue'),
      meta: { title: 'Systems' },
    },
    {
      path: '/shelf/compare',
      component: () => import('./features/shelf/ComparePage.vue'),
      meta: { title: 'Side by side' },
    },
    {
      path: '/shelf/read',
      component: () => import('./features/shelf/ImportPage.vue'),
      meta: { title: 'Import sheets', keeps: true },
    },
    {
      path: '/shelf/prices',
      component: () => import('./features/shelf/PriceListPage.vue'),
      meta: { title: 'Price list' },
    },
    {
      path: '/shelf/sheet',
      component: () => import('./features/shelf/ReadSheetPage.vue'),
      meta: { title: 'Read a data sheet', keeps: true },
    },
    {
      path: '/shelf/new',
      component: () => import('./features/shelf/SheetEditPage.vue'),
      meta: { title: 'New sheet', keeps: true },
    },
    {
      path: '/shelf/p/:id',
      component: () => import('./features/shelf/DataSheetPage.vue'),
      props: true,
      meta: { title: 'Data sheet' },
    },
    {
      path: '/shelf/p/:id/edit',
      component: () => import('./features/shelf/SheetEditPage.vue'),
      props: true,
      meta: { title: 'Data sheet', keeps: true },
    },
    {
      path: '/bench/:id?',
      component: () => import('./features/bench/BenchPage.vue'),
      props: true,
      meta: { title: 'Bench' },
    },
    { path: '/stock', component: () => import('./features/stock/StockPage.vue'), meta: { title: 'Stock' } },
    {
      path: '/house',
      component: () => import('./features/house/HousePage.vue'),
      meta: { title: 'Company standards' },
    },
    {
      path: '/people',
      component: () => import('./features/people/PeoplePage.vue'),
      meta: { title: 'People' },
    },
    {
      path: '/people/crews',
      component: () => import('./features/people/CrewsPage.vue'),
      meta: { title: 'Crews and machines', keeps: true },
    },
    {
      path: '/people/calendars',
      component: () => import('./features/people/CalendarsPage.vue'),
      meta: { title: 'Calendar subscriptions', keeps: true },
    },
    {
      path: '/:rest(.*)*',
      component: () => import('./shell/LostPage.vue'),
      meta: { open: true, title: 'Not found' },
    },
  ],
  async scrollBehavior(to, from, saved) {
    if (!saved) return to.path === from.path ? false : { top: 0 }
    await until(useShownPath()).toBe(to.path, { timeout: 3000 }) // a page is as long as it was once it is mounted
    return saved
  },
})

// What stands half typed in a field is read before its page is left.
router.beforeEach(async () => {
  await entriesRead()
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
  // A form that somebody may not keep is not shown to them; what it changes is.
  if (to.meta.keeps && !session.mayKeep)
    return to.path.replace(/\/(edit|new|read|start|crews|calendars)$/, '') || '/jobs'
  if (session.me?.factorDue && to.path !== '/account') return '/account'
  return session.me ? true : { path: '/sign-in', query: { next: to.fullPath } }
})

router.afterEach((to) => {
  document.title = `${String(to.meta.title ?? '')} · Nephelon`
})
