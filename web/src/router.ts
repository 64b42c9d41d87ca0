import { createRouter, createWebHistory } from 'vue-router'
import { onSignedOut } from './api/client'
import { user, whoIsIt } from './session'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/floor' },
    {
      path: '/sign-in',
      name: 'sign-in',
      component: () => import('./places/signin/SignInPlace.vue'),
      meta: { title: 'Sign in' },
    },
    {
      path: '/floor',
      name: 'floor',
      component: () => import('./places/floor/FloorPlace.vue'),
      meta: { title: 'Floor' },
    },
    {
      path: '/floor/:id(\\d+)',
      name: 'printer',
      component: () => import('./places/floor/PrinterPlace.vue'),
      props: (to) => ({ printerId: Number(to.params.id) }),
      meta: { title: 'Printer' },
    },
    {
      path: '/floor/:id(\\d+)/web',
      name: 'web',
      component: () => import('./places/floor/WebPlace.vue'),
      props: (to) => ({ printerId: Number(to.params.id) }),
      meta: { title: 'What came out' },
    },
    {
      path: '/bench',
      name: 'designs',
      component: () => import('./places/bench/DesignsPlace.vue'),
      meta: { title: 'Designs' },
    },
    {
      path: '/bench/:id(\\d+)/versions',
      name: 'versions',
      component: () => import('./places/bench/VersionsPlace.vue'),
      props: (to) => ({ designId: Number(to.params.id) }),
    },
    {
      path: '/bench/:id(\\d+)',
      name: 'bench',
      component: () => import('./places/bench/BenchPlace.vue'),
      props: (to) => ({ designId: Number(to.params.id) }),
      meta: { title: 'Bench' },
    },
    {
      path: '/records',
      name: 'records',
      component: () => import('./places/records/RecordsPlace.vue'),
      meta: { title: 'Records' },
    },
    {
      path: '/records/:id(\\d+)?/write',
      name: 'write-records',
      component: () => import('./places/records/WritePlace.vue'),
      props: (to) => ({ setId: to.params.id ? Number(to.params.id) : undefined }),
      meta: { title: 'Write records' },
    },
    {
      path: '/records/:id(\\d+)',
      name: 'record-set',
      component: () => import('./places/records/RecordSetPlace.vue'),
      props: (to) => ({
        setId: Number(to.params.id),
        record: to.query.record ? Number(to.query.record) : undefined,
      }),
      meta: { title: 'Records' },
    },
    {
      path: '/records/series',
      name: 'all-series',
      component: () => import('./places/numbers/SeriesPlace.vue'),
      meta: { title: 'Number series' },
    },
    {
      path: '/records/series/:id(\\d+)',
      name: 'series',
      component: () => import('./places/numbers/SeriesPage.vue'),
      props: (to) => ({ seriesId: Number(to.params.id) }),
      meta: { title: 'Number series' },
    },
    {
      path: '/stockroom',
      name: 'stockroom',
      component: () => import('./places/stockroom/StockroomPlace.vue'),
      meta: { title: 'Stockroom' },
    },
    {
      path: '/reference',
      name: 'reference',
      component: () => import('./places/reference/ReferencePlace.vue'),
      meta: { title: 'Reference' },
    },
    {
      path: '/runs',
      name: 'runs',
      component: () => import('./places/runs/RunsPlace.vue'),
      meta: { title: 'Runs' },
    },
    {
      path: '/runs/:id(\\d+)',
      name: 'run',
      component: () => import('./places/runs/RunPlace.vue'),
      props: (to) => ({ runId: Number(to.params.id) }),
      meta: { title: 'Run' },
    },
    {
      path: '/runs/:id(\\d+)/demand',
      name: 'demand',
      component: () => import('./places/runs/DemandPlace.vue'),
      props: (to) => ({ runId: Number(to.params.id) }),
      meta: { title: 'One at a time' },
    },
    {
      path: '/runs/:id(\\d+)/scan',
      name: 'scan-back',
      component: () => import('./places/runs/ScanBackPlace.vue'),
      props: (to) => ({ runId: Number(to.params.id) }),
      meta: { title: 'Scan back' },
    },
    {
      path: '/runs/used',
      name: 'used',
      component: () => import('./places/runs/UsedPlace.vue'),
      meta: { title: 'What was used' },
    },
    {
      path: '/you',
      name: 'you',
      component: () => import('./places/you/YouPlace.vue'),
      meta: { title: 'Your sessions' },
    },
    {
      path: '/audit',
      name: 'audit',
      component: () => import('./places/you/AuditPlace.vue'),
      meta: { title: 'Audit log' },
    },
    {
      path: '/about',
      name: 'about',
      component: () => import('./places/you/AboutPlace.vue'),
      meta: { title: 'About' },
    },
    { path: '/:rest(.*)*', redirect: '/floor' },
  ],
})

router.beforeEach(async (to) => {
  if (to.name === 'sign-in') return true
  if (await whoIsIt()) return true
  return { name: 'sign-in', query: { to: to.fullPath } }
})
router.afterEach((to) => {
  document.title = typeof to.meta.title === 'string' ? `${to.meta.title} · Odd Spool` : 'Odd Spool'
})

onSignedOut(async () => {
  user.value = ''
  await router.isReady() // the first place may be on its way still
  if (router.currentRoute.value.name !== 'sign-in')
    await router.push({ name: 'sign-in', query: { to: router.currentRoute.value.fullPath } })
})
