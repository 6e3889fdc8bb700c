/** Starts the core before anything else of the page where a project is opened: it takes longest to be ready. */

import { core } from './client'

if (location.pathname.startsWith('/project/')) core.start()
