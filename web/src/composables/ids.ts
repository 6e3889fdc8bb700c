import type { Id } from '@/core/types'

/** An id that nothing has yet. */
export const newId = (): Id =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (b) => 'abcdefghijklmnopqrstuvwxyz0123456789'[b % 36]).join('')
