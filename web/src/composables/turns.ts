/** Runs what is asked for one after the other, so that quick presses add up: each begins where the one before it led to. */
export function useTurns(): (act: () => Promise<unknown>) => Promise<unknown> {
  let turn: Promise<unknown> = Promise.resolve()
  return (act) => (turn = turn.then(act, act))
}
