import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'projects', component: () => import('./pages/ProjectsPage.vue') },
    { path: '/project/:id', name: 'studio', component: () => import('./pages/StudioPage.vue'), props: true },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
