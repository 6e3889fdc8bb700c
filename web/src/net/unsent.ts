import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { Change } from '@/core/types'

/**
 * Changes that the server has not acknowledged, kept across a reload, each by itself. Every window keeps its
 * own; those of a window that is gone are taken over by the next that opens the project.
 */

interface Kept {
  project: string
  window: string
  change: Change
}

interface Schema extends DBSchema {
  unsent: { key: number; value: Kept; indexes: { project: string } }
}

const prefix = 'wunderkammer:unsent:'
const windowKey = 'wunderkammer:window'

let windowId = ''
let database: Promise<IDBPDatabase<Schema>> | null = null

function open(): Promise<IDBPDatabase<Schema>> {
  database ??= openDB<Schema>('wunderkammer', 1, {
    upgrade(db) {
      db.createObjectStore('unsent', { autoIncrement: true }).createIndex('project', 'project')
    },
  })
  return database
}

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

/** Where each change of this window is kept, by its id. */
const places = new Map<string, number>()
let turn: Promise<boolean> = Promise.resolve(true)

/** Returns what this window, and windows that are gone, could not bring to the server, in the order in which it was made. */
export async function takeUnsent(project: string): Promise<Change[]> {
  const own = await claim()
  const changes: Change[] = []
  places.clear()
  try {
    const db = await open()
    await takeOver(db, project)
    for (const key of await db.getAllKeysFromIndex('unsent', 'project', project)) {
      const kept = await db.get('unsent', key)
      if (!kept || (kept.window !== own && !(await free(prefix + kept.window)))) continue
      if (kept.window !== own) await db.put('unsent', { ...kept, window: own }, key)
      places.set(kept.change.id, key)
      changes.push(kept.change)
    }
  } catch {
    // A browser that keeps nothing has kept nothing.
  }
  return changes
}

/** Takes over the lists of windows that are gone which an earlier version kept in the local storage. */
async function takeOver(db: IDBPDatabase<Schema>, project: string): Promise<void> {
  const start = `${prefix}${project}:`
  for (const key of Object.keys(localStorage).filter((k) => k.startsWith(start))) {
    const owner = key.slice(start.length)
    if (owner !== windowId && !(await free(prefix + owner))) continue
    let changes: Change[] = []
    try {
      changes = JSON.parse(localStorage.getItem(key) ?? '[]') as Change[]
    } catch {
      // A half-written list holds nothing that could be sent.
    }
    const step = db.transaction('unsent', 'readwrite', { durability: 'strict' })
    for (const change of changes) void step.store.add({ project, window: windowId, change })
    await step.done
    localStorage.removeItem(key)
  }
}

/** Keeps what is new among the changes and forgets what is not among them any more; false where the browser cannot. */
export function keepUnsent(project: string, changes: Change[]): Promise<boolean> {
  turn = turn.then(() => bring(project, changes)).catch(() => false)
  return turn
}

async function bring(project: string, changes: Change[]): Promise<boolean> {
  const there = new Set(changes.map((c) => c.id))
  const gone = [...places.keys()].filter((id) => !there.has(id))
  const fresh = changes.filter((c) => !places.has(c.id))
  if (!gone.length && !fresh.length) return true
  const db = await open()
  const step = db.transaction('unsent', 'readwrite', { durability: 'strict' })
  for (const id of gone) {
    void step.store.delete(places.get(id) as number)
    places.delete(id)
  }
  for (const change of fresh) places.set(change.id, (await step.store.add({ project, window: windowId, change })) as number)
  await step.done
  return true
}
