import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const binary = fileURLToPath(new URL('../../bin/wunderkammer', import.meta.url))

/** The real binary, on a folder of data of its own. */
export class Server {
  readonly folder = mkdtempSync(join(tmpdir(), 'wunderkammer-'))
  private process: ChildProcess | null = null
  private port = 0
  address = ''

  constructor(
    private readonly command: 'serve' | 'demo' = 'serve',
    private readonly more: string[] = [],
  ) {}

  /** Starts the server; after a stop, on the port and the data it had before. */
  async start(): Promise<void> {
    const child = spawn(binary, [this.command, '--data', this.folder, '--listen', `127.0.0.1:${this.port}`, ...this.more], {
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    this.process = child
    this.address = await new Promise((resolve, reject) => {
      let text = ''
      child.stdout.on('data', (chunk: Buffer) => {
        text += chunk.toString()
        const found = /open at (http:\/\/127\.0\.0\.1:(\d+))/.exec(text)
        if (found) {
          this.port = Number(found[2])
          resolve(found[1] as string)
        }
      })
      child.stderr.on('data', (chunk: Buffer) => (text += chunk.toString()))
      child.on('exit', (code) => reject(new Error(`the server ended with ${code}: ${text}`)))
    })
  }

  /** Ends the server; with SIGKILL it gets no chance to tidy up. */
  async stop(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
    const child = this.process
    if (!child || child.exitCode !== null || child.signalCode !== null) return
    await new Promise<void>((resolve) => {
      child.removeAllListeners('exit')
      child.on('exit', () => resolve())
      child.kill(signal)
    })
  }

  async remove(): Promise<void> {
    await this.stop('SIGKILL')
    rmSync(this.folder, { recursive: true, force: true })
  }
}

/** Runs the command line and returns what it prints. */
export const run = (...args: string[]): string =>
  execFileSync(binary, args, {
    encoding: 'utf8',
    maxBuffer: 1 << 28,
    stdio: 'pipe',
  })
