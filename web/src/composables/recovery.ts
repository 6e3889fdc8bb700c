import type { Ref } from 'vue'
import type { Change } from '@/core/types'
import { Unreachable } from '@/net/api'
import { takeUnsent } from '@/net/unsent'
import { message } from './notify'

/** Raised when the core broke again while it was being mended. */
export class Broken extends Error {}

/** What a project that is open needs to be mended. */
export interface Mended {
  project: Ref<string>
  /** Opens the project as it is saved, with changes made again; raises Broken where the core breaks on it. */
  open(unsent: Change[]): Promise<void>
  /** Brings the steps of undo back, where they were before it broke. */
  recall(): Promise<void>
  waits(why: string): void
  done(): void
  failed(sentence: string): void
}

const rest = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

/** How often the core may break within a minute before the project is closed. */
const often = 5

/** Opens a project again after the core broke: as it was saved, with what was not saved yet made again. */
export function useRecovery(of: Mended): { mend(why: string): Promise<void> } {
  let last: number[] = []

  async function mend(why: string): Promise<void> {
    const now = Date.now()
    last = [...last.filter((at) => now - at < 60000), now]
    console.warn('The core broke and was started anew:', why)
    if (last.length > often) {
      of.failed(
        'Something went wrong several times in a row on this project. Saved work is safe. Open an older copy, or tell us what you did last.',
      )
      return
    }
    const unsent = await takeUnsent(of.project.value)
    let left = 0
    for (;;) {
      try {
        await of.open(unsent)
        await of.recall().catch(() => undefined) // without them all is there all the same
        break
      } catch (error) {
        if (error instanceof Unreachable) {
          of.waits(error.message)
          await rest(1000)
        } else if (error instanceof Broken && unsent.length) {
          unsent.pop() // the newest is the likeliest to have done it
          left++
        } else {
          of.failed('Something went wrong on this project, and again when it was reopened. Saved work is safe.')
          return
        }
      }
    }
    const lost = left ? ` ${left === 1 ? 'One change' : `${left} changes`} couldn't be restored.` : ''
    message.error(`Something went wrong. The project was reopened with everything that was saved.${lost}`, {
      duration: 12000,
      closable: true,
    })
    of.done()
  }

  return { mend }
}
