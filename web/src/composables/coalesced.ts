/**
 * Makes of a run one that never overlaps itself: asked for while it runs, it runs once more after,
 * however often it was asked, so that what it reads last is what stands now.
 */
export function coalesced(run: () => Promise<void>): () => Promise<void> {
  let running = false
  let again = false
  return async () => {
    again = true
    if (running) return
    running = true
    try {
      while (again) {
        again = false
        await run()
      }
    } finally {
      running = false
    }
  }
}
