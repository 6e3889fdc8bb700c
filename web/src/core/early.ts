/** Starts what takes longest before anything else of the page, where a project is opened: the core, and reading the project. */

import { loadAhead } from '@/net/api'
import { core } from './client'

const project = /^\/project\/([^/]+)/.exec(location.pathname)?.[1]
if (project) {
  core.start()
  loadAhead(decodeURIComponent(project))
}
