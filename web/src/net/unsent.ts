import type { Change } from '@/core/types'

/**
 * Changes that the server has not acknowledged, kept across a reload. Each window has a list of
 * its own; the list of a window that is gone is taken over by the next that opens the project.
 */

const prefix = 'wunderkammer:unsent:'
const windowKey = 'wunderkammer:window'

let windowId = ''

/** Holds a lock for as long as the page lives; false if another page holds it. */
function hold(name: string): Promise<boolean> {
  return new Promise((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      resolve(lock !== null)
      return lock ? new Promise<void>(() => {}) : undefined
    })
  })
}

/** Reports whether a lock is free at this moment. */
function free(name: string): Promise<boolean> {
  return navigator.locks.request(name, { ifAvailable: true }, (lock) => lock !== null)
}

/** Gives this window an id that no other open window has; a reload keeps it. */
async function claim(): Promise<string> {
  if (windowId) return windowId
  let id = sessionStorage.getItem(windowKey) ?? crypto.randomUUID()
  // A duplicated tab starts with a copy of the session storage.
  if (!(await hold(prefix + id))) {
    id = crypto.randomUUID()
    await hold(prefix + id)
  }
  sessionStorage.setItem(windowKey, id)
  return (windowId = id)
}

/** Returns what this window, and windows that are gone, could not bring to the server. */
export async function takeUnsent(project: string): Promise<Change[]> {
  const own = await claim()
  const changes: Change[] = []
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(prefix + project + ':')) continue
    const owner = key.slice((prefix + project + ':').length)
    if (owner !== own && !(await free(prefix + owner))) continue
    try {
      changes.push(...(JSON.parse(localStorage.getItem(key) ?? '[]') as Change[]))
    } catch {
      // A half-written list holds nothing that could be sent.
    }
    if (owner !== own) localStorage.removeItem(key)
  }
  return changes
}

/** Keeps the list; returns false where the browser has no room for it. */
export function keepUnsent(project: string, changes: Change[]): boolean {
  const key = prefix + project + ':' + windowId
  try {
    if (changes.length) localStorage.setItem(key, JSON.stringify(changes))
    else localStorage.removeItem(key)
    return true
  } catch {
    return false
  }
}
