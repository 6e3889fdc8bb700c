import { assetAt } from './assets'
import type { Asked, Catalogue, Change, Frame, Methods, PastStep, Project, ProjectPart, View } from '@/core/types'

/** An error of the server, as a sentence; for an outdated change, with what came first. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly changes: Change[] = [],
  ) {
    super(message)
  }
}

/** Raised when the server cannot be reached at all. */
export class Unreachable extends Error {
  constructor() {
    super('The server cannot be reached. What you do is kept here and saved when it is back.')
  }
}

export interface ProjectSummary {
  id: string
  name: string
  created: string
  changed: string
  /** It came with the application. */
  example?: boolean
}

/** A picture that is kept, by the name of its content. */
export interface StoredPicture {
  id: string
  width: number
  height: number
}

/** An address at which a composition is reached that was handed off. */
export interface HandOffAddress {
  token: string
  composition: string
  /** Whom it is for. */
  name: string
  /** Whether it wants a password. */
  locked: boolean
  created: string
}

/** A change as the server tells of it: of what was handed off only that something inside changed. */
export type Told = Change & { rig?: boolean }

/**
 * Where a project is asked for: by its id. What was handed off is asked for likewise, as ~ and its address; or, by who hands it off, as ~,
 * the project, a slash and the composition.
 */
function at(id: string): string {
  if (!id.startsWith('~')) return `/projects/${id}`
  const [project = '', composition] = id.slice(1).split('/')
  return composition ? `/projects/${project}/hand-off/${composition}` : `/hand-offs/${project}`
}

/** The reading that is to be opened first of what was handed off. */
let reading = ''
export const readFirst = (id: string): void => void (reading = id)

/** An export that the server makes. */
export interface SharedExport {
  id: string
  /** What its file is called. */
  name: string
  format: string
  state: 'waiting' | 'making' | 'ready' | 'failed'
  /** Pictures. */
  done: number
  of: number
  workers: number
  /** Seconds; 0 where that can't be told. */
  left: number
  error?: string
}

async function request<T>(method: string, path: string, body?: BodyInit | object): Promise<T> {
  const response = await answer(method, path, body)
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T)
}

const largest = 32 << 20 // bytes of a request: the server takes no more

/** Sends a request; what the server refuses is thrown. */
async function answer(method: string, path: string, body?: BodyInit | object): Promise<Response> {
  let response: Response
  if (body instanceof Blob && body.size > largest)
    throw new Problem(413, `The file has ${Math.round(body.size / 2 ** 20)} MB; the limit is ${largest >> 20} MB.`)
  try {
    const raw = body instanceof Blob
    response = await fetch('/api' + path, {
      method,
      body: body === undefined || raw ? (body as BodyInit | undefined) : JSON.stringify(body),
      headers: body === undefined || raw ? {} : { 'Content-Type': 'application/json' },
    })
  } catch {
    throw new Unreachable()
  }
  if (!response.ok) {
    const problem = (await response.json().catch(() => ({}))) as { detail?: string; changes?: Change[] }
    throw new Problem(response.status, problem.detail ?? `The server answered with ${response.status}.`, problem.changes)
  }
  return response
}

/** A project as it was sent, and read. */
export interface Loaded {
  bytes: Uint8Array<ArrayBuffer>
  revision: number
  /** Which the revision belongs to. */
  history: string
  project: Project
  /** What the core will say of it when it is opened; nothing where it breaks on it. */
  view?: View
  /** What the core will show of it; null where that takes long. */
  first: Frame | null
  healed?: string[]
}

const ask = async (id: string): Promise<ArrayBuffer> =>
  (await answer('GET', `${at(id)}/opening${id.startsWith('~') && reading ? `?reading=${reading}` : ''}`)).arrayBuffer()

/** What was asked for before the page was ready to take it. */
let ahead: { id: string; answer: Promise<ArrayBuffer> } | null = null

/** Asks for a project that will be opened next. */
export function loadAhead(id: string): void {
  ahead = { id, answer: ask(id) }
  ahead.answer.catch(() => undefined) // said to who takes it
}

/** A project to be opened, with its first frame; their form is described in the server and in the bridge of the core. */
async function load(id: string): Promise<Loaded> {
  const asked = ahead?.id === id ? ahead.answer : ask(id)
  ahead = null
  const all = await asked
  const [bytes, frame] = framed(all, 0)
  const read = JSON.parse(new TextDecoder().decode(bytes)) as Omit<Loaded, 'bytes' | 'first'>
  return { bytes: bytes.slice(), ...read, first: frame < all.byteLength ? firstFrame(all, frame) : null }
}

/** Bytes that have their number before them, and where they end. */
function framed(all: ArrayBuffer, from: number): [bytes: Uint8Array<ArrayBuffer>, end: number] {
  const bytes = new Uint8Array(all, from + 4, new DataView(all).getUint32(from, true))
  return [bytes, from + 4 + bytes.length]
}

function firstFrame(all: ArrayBuffer, from: number): Frame {
  const [text, values] = framed(all, from)
  const head = JSON.parse(new TextDecoder().decode(text)) as {
    values: number
    shapes: number
    particles: number
    copies: number
    texts?: string[]
  }
  const shapes = values + 8 * head.values
  return {
    frame: 0,
    values: new Float64Array(all.slice(values, shapes)),
    shapes: new Float32Array(all, shapes, head.shapes),
    particles: new Float32Array(all, shapes + 4 * head.shapes, head.particles),
    copies: new Float32Array(all, shapes + 4 * (head.shapes + head.particles), head.copies),
    ...(head.texts && { texts: head.texts }),
  }
}

export const api = {
  list: (deleted = false) => request<ProjectSummary[]>('GET', '/projects' + (deleted ? '?deleted=1' : '')),
  /** The project that came with the application; fresh: another one, as it was at first. */
  example: (fresh: boolean) => request<{ id: string; name: string }>('POST', '/projects/example', { fresh }),
  create: (name: string) => request<{ id: string; name: string }>('POST', '/projects', { name }),
  load,
  /** All that is to be known of kinds of items and links, and of the language of formulas. */
  catalogue: () => request<Catalogue>('GET', '/catalogue'),
  rename: (id: string, name: string) => request<{ revision: number }>('PATCH', `/projects/${id}`, { name }),
  remove: (id: string) => request<void>('DELETE', `/projects/${id}`),
  restore: (id: string) => request<void>('POST', `/projects/${id}/restore`),
  duplicate: (id: string) => request<{ id: string; name: string }>('POST', `/projects/${id}/duplicate`),
  importFile: (file: Blob) => request<{ id: string; name: string; notes?: string[] }>('POST', '/projects/import', file),
  send: (id: string, change: Change, history: string) => request<{ revision: number }>('POST', `${at(id)}/changes`, { ...change, history }),
  /** Which of some changes the server has, with the revisions that they made. */
  known: (id: string, ids: string[]) => request<Record<string, number>>('POST', `${at(id)}/changes/known`, { ids }),
  /** Some changes with what takes them back. */
  steps: (id: string, ids: string[]) => request<PastStep[]>('POST', `${at(id)}/changes/steps`, { ids }),
  /** Keeps a project as this page has it, as one of its own. */
  adopt: (project: Methods['project']['answer']) => request<{ id: string; name: string }>('POST', '/projects/adopt', project),
  since: (id: string, revision: number) => request<Change[]>('GET', `${at(id)}/changes?since=${revision}`),
  picture: (project: ProjectSummary) => `/api/projects/${project.id}/thumbnail.svg?at=${encodeURIComponent(project.changed)}`,
  keep: (file: Blob) => request<{ frames: StoredPicture[] }>('POST', '/assets', file),
  asset: assetAt,
  frame: (id: string, composition: string, frame: number) => `/api/projects/${id}/frame.svg?composition=${composition}&frame=${frame}`,
  /** The file of a project, or of a part of one. */
  file: (id: string, part: ProjectPart = '', of: string = '') => `/api/projects/${id}/package${part && `?part=${part}&of=${of}`}`,
  /** Reads the file of a project, or of a part of one, and keeps its pictures. */
  readPackage: (file: Blob) => request<{ project: Project; part: ProjectPart; notes: string[] | null }>('POST', '/packages', file),
  /** The exports of a project that the server makes, and whether it makes any. */
  exports: (id: string) => request<{ able: boolean; exports: SharedExport[] }>('GET', `/projects/${id}/exports`),
  /** Has the server make an export of a project as it is saved; the same id twice is one. */
  beginExport: (id: string, what: { id: string; asked: Asked; name: string }) =>
    request<SharedExport>('POST', `/projects/${id}/exports`, what),
  dropExport: (id: string) => request<undefined>('DELETE', `/exports/${id}`),
  exportFile: (id: string) => `/api/exports/${id}/file`,
  /** Gives the password of an address. */
  enter: (address: string, password: string) => request<undefined>('POST', `/hand-offs/${address}/enter`, { password }),
  addresses: (project: string, composition: string) =>
    request<HandOffAddress[]>('GET', `/projects/${project}/hand-off/${composition}/addresses`),
  newAddress: (project: string, composition: string, name: string, password: string) =>
    request<HandOffAddress>('POST', `/projects/${project}/hand-off/${composition}/addresses`, { name, password }),
  withdraw: (project: string, token: string) => request<undefined>('DELETE', `/projects/${project}/addresses/${token}`),
  live: (id: string, since: number, history: string) => {
    const url = new URL(`/api${at(id)}/live?since=${since}&history=${history}`, location.href)
    url.protocol = url.protocol.replace('http', 'ws')
    return url
  },
}
