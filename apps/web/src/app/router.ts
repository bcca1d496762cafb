/** Addresses of the application. Stations are loaded when they are opened. */
import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from '../stores/session.ts';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/sites' },
    { path: '/sign-in', name: 'sign-in', component: () => import('./SignIn.vue'), meta: { open: true } },
    {
      path: '/join/:token',
      name: 'join',
      component: () => import('./JoinTeam.vue'),
      props: true,
      meta: { open: true },
    },
    {
      path: '/reset/:token',
      name: 'reset',
      component: () => import('./SetPassword.vue'),
      props: true,
      meta: { open: true },
    },
    { path: '/account', name: 'account', component: () => import('./AccountPage.vue'), meta: { clients: true } },
    { path: '/trail', name: 'trail', component: () => import('./TrailPage.vue') },
    { path: '/people', name: 'people', component: () => import('./PeoplePage.vue') },
    { path: '/sites', name: 'sites', component: () => import('./SiteChoice.vue'), meta: { clients: true } },
    {
      path: '/sites/:site/client',
      name: 'client',
      component: () => import('./ClientPage.vue'),
      props: true,
      meta: { clients: true },
    },
    {
      path: '/sites/:site',
      component: () => import('./SiteFrame.vue'),
      props: true,
      children: [
        { path: '', redirect: { name: 'survey' } },
        { path: 'survey', name: 'survey', component: () => import('../stations/survey/SurveyStation.vue') },
        { path: 'address', name: 'address', component: () => import('../stations/address/AddressStation.vue') },
        { path: 'pages/:page?', name: 'pages', component: () => import('../stations/pages/PagesStation.vue') },
        {
          path: 'metadata/:page?',
          name: 'metadata',
          component: () => import('../stations/metadata/MetadataStation.vue'),
        },
        { path: 'redirects', name: 'redirects', component: () => import('../stations/redirects/RedirectsStation.vue') },
        { path: 'publish', name: 'publish', component: () => import('../stations/publish/PublishStation.vue') },
        { path: 'move', name: 'move', component: () => import('../stations/move/MoveView.vue') },
        { path: 'watch', name: 'watch', component: () => import('../stations/watch/WatchStation.vue') },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/sites' },
  ],
});

router.beforeEach(async (to) => {
  const session = useSession();
  if (!session.session) await session.load();
  if (session.person && to.name === 'sign-in') return { name: 'sites' };
  if (!session.person && !to.meta.open) return { name: 'sign-in', query: { then: to.fullPath } };
  // Clients have a page of their own for each site, and no station.
  if (session.isClient && !to.meta.clients && !to.meta.open)
    return to.params.site === undefined ? { name: 'sites' } : { name: 'client', params: { site: to.params.site } };
  return true;
});
