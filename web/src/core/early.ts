/** Starts what takes longest before anything else of the page, where a project is opened: the core, and reading the project. */

import { loadAhead, readFirst } from '@/net/api'
import { core } from './client'

const [, project, composition] = /^\/project\/([^/]+)(?:\/hand-off\/([^/]+))?/.exec(location.pathname) ?? []
const [, address] = /^\/hand-off\/([^/]+)/.exec(location.pathname) ?? []
if (project ?? address) {
  core.start()
  readFirst(new URLSearchParams(location.search).get('reading') ?? '')
  if (address) loadAhead('~' + address)
  else if (composition) loadAhead(`~${project}/${composition}`)
  else loadAhead(decodeURIComponent(project ?? ''))
}
