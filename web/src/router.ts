import { core } from '@/core/client'
import { createRouter, createWebHistory } from 'vue-router'

/** The studio, and beside it the core, which takes longest to be ready. */
const studio = () => {
  core.start()
  return import('./pages/StudioPage.vue')
}

/** What a colleague gets, and beside it the core. */
const handOff = () => {
  core.start()
  return import('./pages/HandOffPage.vue')
}

/** Gets both ready while the projects are looked at, so that one opens at once. */
const projects = async () => {
  const page = await import('./pages/ProjectsPage.vue')
  setTimeout(() => void studio().catch(() => {}), 500) // where it cannot be had now, it is asked for again
  return page
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'projects', component: projects },
    { path: '/project/:id', name: 'studio', component: studio, props: true },
    { path: '/hand-off/:address', name: 'hand-off', component: handOff, props: true },
    { path: '/project/:id/hand-off/:composition', name: 'hand-off seen', component: handOff, props: true },
    { path: '/box', name: 'box', component: () => import('./pages/BoxPage.vue') },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
