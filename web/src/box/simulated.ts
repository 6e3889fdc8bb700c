/** The box that ships with the application: a window of its own, which speaks the same messages over a channel between windows. */
export const simulated = {
  name: 'Simulated box',
  faders: Array.from({ length: 8 }, (_, k) => `1 control ${k + 1}`),
  knobs: Array.from({ length: 8 }, (_, k) => `1 control ${k + 16}`),
  keys: Array.from({ length: 8 }, (_, k) => `1 note ${k + 36}`),
}

/** What goes over the channel: messages to the studio and back, and that the window of the box was opened or closed. */
export type Told = { to: 'studio' | 'box'; bytes: number[] } | { box: 'here' | 'gone' } | { studio: 'here' }

export const channel = (): BroadcastChannel => new BroadcastChannel('wunderkammer box')
