import * as Comlink from 'comlink'
import { ref } from 'vue'
import type { Change, Changed, Frame, Methods, Sound } from './types'

/** The calls that may change the document. */
export type Acting = { [M in keyof Methods]: Methods[M]['answer'] extends Changed ? M : never }[keyof Methods]

export interface Answer<T> {
  result?: T
  error?: string
  /** What broke the core, where it did: it has been started anew, without a project. */
  broken?: string
}

/** An answer as the core wrote it, with the frame after it. */
export interface Told {
  text: string
  frame: Frame | null
  /** What broke the core after it had answered. */
  broken?: string
}

/** What the worker does; arguments and answers travel as JSON, which the core reads and writes as it is. */
export interface CoreService {
  ask(method: string, argument: string): Promise<string>
  act(method: string, argument: string, frame: number): Promise<Told>
  /** Opens a project as the server sent it. */
  open(document: Uint8Array, unsent: string, frame: number): Promise<Told>
  /** Listens to the samples of a sound's channels. */
  hear(channels: Float32Array[], rate: number): Promise<string>
  frame(frame: number): Promise<{ frame: Frame | null; broken?: string }>
  read(frame: number): Promise<{ frame: Frame | null; broken?: string }>
}

/** Reads an answer. */
export const read = (text: string): Answer<unknown> => JSON.parse(text) as Answer<unknown>

/** Reads an answer that has a frame after it. */
export const readTold = ({ text, ...rest }: Told): Answer<unknown> & { frame: Frame | null } => ({ ...read(text), ...rest })

/** What is said to have broken where the core could not be loaded at all. */
export const unloaded = 'the core cannot be loaded'

/** A worker with the core in it, and what is answered to those who wait for it when it breaks. */
interface Home {
  worker: Worker
  service: Comlink.Remote<CoreService>
  fell: Promise<{ frame: null; broken: string }>
  fall: (why: string) => void
}

function settle(): Home {
  const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'core' })
  const { promise, resolve } = Promise.withResolvers<{ frame: null; broken: string }>()
  worker.onerror = () => resolve({ frame: null, broken: unloaded })
  return { worker, service: Comlink.wrap<CoreService>(worker), fell: promise, fall: (why) => resolve({ frame: null, broken: why }) }
}

let home: Home | null = null
/** Where the core lives: it is started when it is first needed. */
const living = (): Home => (home ??= settle())
let opening: Promise<void> = Promise.resolve() // until a core that was started anew has its project again
let mend: ((why: string) => Promise<void>) | null = null

/** Starts the core anew where it broke, once for all who wait for an answer of it. */
function broke(at: Home, why: string): void {
  if (at !== home) return
  at.worker.terminate()
  at.fall(why)
  home = settle()
  if (!mending && mend) {
    mending = true
    opening = mend(why).finally(() => (mending = false))
  }
}
let mending = false

/** How long the core may take to answer before it is said that it works, and before it is offered to start it anew, in ms. */
const patience = { working: 3000, stuck: 10000 }

/** Whether the core takes its time over something. */
const pace = ref<'well' | 'working' | 'stuck'>('well')
const asked = new Set<number>() // when each question was put that is not answered yet
let looking = 0
function look(): void {
  const waits = asked.size ? performance.now() - Math.min(...asked) : 0
  pace.value = waits > patience.stuck ? 'stuck' : waits > patience.working ? 'working' : 'well'
  if (!asked.size && looking) looking = (clearInterval(looking), 0)
}

/** Watches how long an answer takes. */
async function watched<T>(answer: Promise<T>): Promise<T> {
  let at = performance.now()
  while (asked.has(at)) at += 1e-6
  asked.add(at)
  looking ||= window.setInterval(look, 500)
  try {
    return await answer
  } finally {
    asked.delete(at)
    look()
  }
}

/** Puts a question to the core; while it is being mended, only who mends it gets an answer. */
async function put<T extends { broken?: string }>(
  question: (service: Comlink.Remote<CoreService>) => Promise<T>,
  mends: boolean,
): Promise<T> {
  if (!mends) await opening
  const at = living()
  const answer = (await watched(
    Promise.race([question(at.service).catch((error: unknown) => ({ frame: null, broken: String(error) })), at.fell]),
  )) as T
  if (answer.broken) broke(at, answer.broken)
  return answer
}

/** The core, in its worker. One for the page: it holds the project that is open. */
export const core = {
  /** Makes the core ready, before it is asked for anything. */
  start(): void {
    living()
  },

  /** Says who opens the project again after the core broke. Its own calls say so. */
  onBroken(handler: ((why: string) => Promise<void>) | null): void {
    mend = handler
  },

  pace,

  /** Gives up what the core is at, and starts it anew. */
  startAnew(): void {
    if (home) broke(home, 'it did not answer')
  },

  /** Asks for something that leaves the picture as it is. */
  async ask<M extends keyof Methods>(method: M, argument: Methods[M]['argument']): Promise<Answer<Methods[M]['answer']>> {
    return (await put(async (service) => read(await service.ask(method, JSON.stringify(argument))), false)) as Answer<Methods[M]['answer']>
  },

  /** Makes a call and evaluates the frame after it, so that both come back at once. */
  async act<M extends Acting>(
    method: M,
    argument: Methods[M]['argument'],
    frame: number,
    mends = false,
  ): Promise<Answer<Changed> & { frame: Frame | null }> {
    return (await put(
      async (service) => readTold(await service.act(method, JSON.stringify(argument), frame)),
      mends,
    )) as Answer<Changed> & {
      frame: Frame | null
    }
  },

  /** Opens a project as the server sent it, with changes that are made again, and evaluates a frame. */
  async open(
    document: Uint8Array<ArrayBuffer>,
    unsent: Change[],
    frame: number,
    mends = false,
  ): Promise<Answer<Changed> & { frame: Frame | null }> {
    return (await put(
      async (service) => readTold(await service.open(Comlink.transfer(document, [document.buffer]), JSON.stringify(unsent), frame)),
      mends,
    )) as Answer<Changed> & { frame: Frame | null }
  },

  /** How loud a sound is from moment to moment, which has no asset yet. */
  async hear(channels: Float32Array<ArrayBuffer>[], rate: number): Promise<Answer<Sound>> {
    const buffers = channels.map((c) => c.buffer)
    return (await put(async (service) => read(await service.hear(Comlink.transfer(channels, buffers), rate)), false)) as Answer<Sound>
  },

  frame: (frame: number): Promise<{ frame: Frame | null }> => put((service) => service.frame(frame), false),

  /** Evaluates a frame apart from what is shown, with all values and no shapes. */
  read: (frame: number): Promise<{ frame: Frame | null }> => put((service) => service.read(frame), false),
}
