/** How long a hand has to rest until its turn is over, and how long it is waited for at most, in ms. */
const rest = 250
const most = 2500

let acted = -Infinity
const act = (event: Event): void => {
  if (!(event instanceof PointerEvent) || event.buttons || event.type !== 'pointermove') acted = performance.now()
}
for (const what of ['pointerdown', 'pointermove', 'pointerup', 'keydown', 'wheel'])
  window.addEventListener(what, act, { capture: true, passive: true })

/** Waits until whoever works has no hand on anything: drawing for a file shares the card with the studio, and must not make it stutter. */
export async function turn(): Promise<void> {
  const began = performance.now()
  do await new Promise((done) => setTimeout(done, performance.now() - acted < rest ? 40 : 0))
  while (performance.now() - acted < rest && performance.now() - began < most)
}
