import { computed, type ComputedRef } from 'vue'

type Asked = Record<string, (...a: never[]) => unknown>

/** Functions of a store that only read. Returned as they are they would be actions, and each of their thousands of calls be wrapped. */
export function asking<F extends Asked>(functions: F): { [K in keyof F]: ComputedRef<F[K]> } {
  return Object.fromEntries(Object.entries(functions).map(([name, f]) => [name, computed(() => f)])) as never
}
