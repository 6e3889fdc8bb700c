import type { View } from '@/core/types'

/** The changes that can be undone and made again, by their ids, the last one last: what is known of them outside of the core. */
export class PastSteps {
  private undo: string[] = []
  private redo: string[] = []

  /** Follows what the core says would be undone and made again next. */
  note(view: View): void {
    follow(this.undo, view.lastUndo)
    follow(this.redo, view.lastRedo)
  }

  /** Those that there are now, to be kept for when the core is there again. */
  copy(): { undo: string[]; redo: string[] } {
    return { undo: [...this.undo], redo: [...this.redo] }
  }

  clear(): void {
    this.undo = []
    this.redo = []
  }
}

/** As many as the core keeps. */
const most = 500

function follow(steps: string[], last: string | undefined): void {
  if (!last) steps.length = 0
  else if (steps.at(-2) === last && steps.at(-1) !== last) steps.pop()
  else if (steps.at(-1) !== last) steps.push(last)
  if (steps.length > most) steps.shift()
}
