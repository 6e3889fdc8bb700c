/**
 * Where a step by a key starts from: the value that is shown, or, shortly after a step, where that one led, since its value may still be on
 * its way. So quick steps add up.
 */
export function useStepping<V>(shown: () => V): { from: () => V; to: (value: V) => V } {
  const way = 250 // ms that a value is waited for
  let led: { value: V; when: number } | null = null
  return {
    from: () => (led && performance.now() - led.when < way ? led.value : shown()),
    to(value) {
      led = { value, when: performance.now() }
      return value
    },
  }
}
