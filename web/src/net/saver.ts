import { WebSocket as Line } from 'partysocket'
import { core } from '@/core/client'
import type { Change, Changed } from '@/core/types'
import { api, Problem, Unreachable } from './api'
import { keepUnsent } from './unsent'

export type SaveState = 'saved' | 'saving' | 'retrying'

/** What the saver needs of the document it saves. */
export interface Saved {
  project: string
  /** The history that its revisions belong to. */
  history: string
  revision(): number
  /** Hands changes of the server to the core. */
  receive(changes: Change[]): Promise<Changed | undefined>
  /** Loads the document anew without one change that the server refused. */
  reload(without: string, reason: string): Promise<void>
  state(state: SaveState, detail?: string): void
  gone(sentence: string): void
  /** The server has another history now: what is not saved is kept, and the project opened anew. */
  parted(): Promise<void>
}

const shortest = 400
const longest = 5000

/** Brings changes to the server one by one, and those of others here. */
export class Saver {
  private running = false
  private resting = false
  private stopped = false
  private pause = shortest // before a change is sent again
  private line: Line | null = null // connects again by itself
  private wake: (() => void) | null = null

  constructor(private readonly document: Saved) {}

  start(): void {
    this.follow()
    void this.pump()
  }

  stop(): void {
    this.stopped = true
    this.line?.close()
    this.wake?.()
  }

  /** Says that there may be something new to save. It is kept at once, whether the server is there or not. */
  async pump(): Promise<void> {
    let waiting = await this.keep()
    if (this.running || !waiting) return
    this.running = true
    try {
      while (!this.stopped && waiting) {
        if (!waiting.length) {
          this.document.state('saved')
          return
        }
        await this.send(waiting[0] as Change)
        waiting = await this.keep()
      }
    } finally {
      this.running = false
    }
  }

  /** Keeps what waits to be saved, and returns it; nothing where the core broke, which is mended elsewhere. */
  private async keep(): Promise<Change[] | undefined> {
    const waiting = (await core.ask('waiting', null)).result
    if (!waiting) return undefined
    const kept = await keepUnsent(this.document.project, waiting)
    if (waiting.length && !this.resting)
      this.document.state('saving', kept ? undefined : 'The browser has no room left to keep unsaved changes across a reload.')
    return waiting
  }

  private async send(change: Change): Promise<void> {
    try {
      const { revision } = await api.send(this.document.project, change, this.document.history)
      this.pause = shortest
      await this.document.receive([{ ...change, revision }])
    } catch (error) {
      await this.recover(change, error)
    }
  }

  private async recover(change: Change, error: unknown): Promise<void> {
    if (error instanceof Problem && error.status === 409) {
      await this.document.receive(error.changes)
    } else if (error instanceof Problem && error.status === 412) {
      await this.part()
    } else if (error instanceof Problem && error.status === 404) {
      this.stopped = true
      this.document.gone(error.message)
    } else if (error instanceof Unreachable || (error instanceof Problem && error.status >= 500)) {
      this.document.state('retrying', error.message)
      this.resting = true
      await this.rest()
      this.resting = false
    } else {
      await this.document.reload(change.id, error instanceof Error ? error.message : String(error))
    }
  }

  private async part(): Promise<void> {
    if (this.stopped) return
    this.stop()
    await this.document.parted()
  }

  /** Waits before the next try, longer each time. */
  private rest(): Promise<void> {
    const time = this.pause
    this.pause = Math.min(longest, this.pause * 2)
    return new Promise((resolve) => {
      this.wake = resolve
      setTimeout(resolve, time)
    })
  }

  /** Listens for changes of other windows, from where we stand whenever the line is connected anew. */
  private follow(): void {
    const line = new Line(() => api.live(this.document.project, this.document.revision(), this.document.history).href, [], {
      minReconnectionDelay: shortest,
      maxReconnectionDelay: longest,
      reconnectionDelayGrowFactor: 2,
    })
    this.line = line
    line.onopen = () => this.wake?.() // the server is back
    line.onclose = (event) => event.code === 4412 && void this.part()
    line.onmessage = async (event) => {
      const change = JSON.parse(event.data as string) as Change
      const answer = await this.document.receive([change])
      if (!answer) line.reconnect() // something is missing between: ask again from where we stand
    }
  }
}
