import { createRouter, createWebHistory } from 'vue-router'
import { useSession } from './session'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/desk' },
    { path: '/sign-in', component: () => import('./places/signin/SignIn.vue'), meta: { open: true, title: 'Sign in' } },
    {
      path: '/set-up',
      component: () => import('./places/signin/SetUpPractice.vue'),
      meta: { open: true, title: 'New practice' },
    },
    { path: '/desk', component: () => import('./places/desk/Desk.vue'), meta: { title: 'Desk' } },
    {
      path: '/desk/likely-refunds',
      component: () => import('./places/desk/LikelyRefunds.vue'),
      meta: { title: 'Likely refunds' },
    },
    { path: '/desk/season', component: () => import('./places/desk/SeasonPlace.vue'), meta: { title: 'Season' } },
    { path: '/clients', component: () => import('./places/client/ClientList.vue'), meta: { title: 'Clients' } },
    { path: '/clients/new', component: () => import('./places/client/ClientPage.vue'), meta: { title: 'New client' } },
    {
      path: '/clients/:id(\\d+)',
      component: () => import('./places/client/ClientPage.vue'),
      meta: { title: 'Client' },
    },
    {
      path: '/households/:id(\\d+)/:year(\\d+)',
      component: () => import('./places/household/HouseholdPlace.vue'),
      meta: { title: 'Household' },
    },
    {
      path: '/returns/:id(\\d+)/:step(scope|fill|review|approve|send|after)?/:form?',
      component: () => import('./places/return/ReturnPlace.vue'),
      meta: { title: 'Return' },
    },
    { path: '/law', component: () => import('./places/law/LawPlace.vue'), meta: { title: 'Law' } },
    { path: '/practice', component: () => import('./places/practice/PracticePlace.vue'), meta: { title: 'Practice' } },
    {
      path: '/practice/consent',
      component: () => import('./places/practice/ConsentReturn.vue'),
      meta: { title: 'Consent' },
    },
    { path: '/account', component: () => import('./places/account/AccountPlace.vue'), meta: { title: 'Your account' } },
    {
      path: '/invitation/:token',
      component: () => import('./places/signin/TakeInvitation.vue'),
      meta: { open: true, title: 'Invitation' },
    },
    {
      path: '/accept/:token',
      component: () => import('./places/accept/AcceptPage.vue'),
      meta: { open: true, title: 'Your return' },
    },
    { path: '/acts', component: () => import('./places/acts/ActsPlace.vue'), meta: { title: 'Acts' } },
    { path: '/:rest(.*)', redirect: '/desk' },
  ],
})

router.beforeEach(async (to) => {
  const session = useSession()
  if (!session.view) await session.load()
  if (!session.view?.practice) {
    if (to.path !== '/set-up') return { path: '/set-up' }
  } else if (to.path === '/set-up') return { path: '/desk' }
  if (!to.meta.open && !session.person) return { path: '/sign-in', query: { to: to.fullPath } }
  document.title = `${String(to.meta.title ?? 'Aerarium')} - Aerarium`
  return true
})
