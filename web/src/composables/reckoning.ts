import { watch, type Ref } from 'vue'
import { core } from '@/core/client'
import type { Reckoned } from '@/core/types'

/** A number as it is typed, in which a comma is a decimal point; undefined for anything else. */
function plain(text: string): number | undefined {
  const x = Number(text.replace(',', '.'))
  return text !== '' && Number.isFinite(x) ? x : undefined
}

/**
 * What comes of what is typed into a field for a number: a number at once; a sum, or any other formula, as the core reckons it. It is asked
 * while it is typed, so that the answer is there when it is wanted.
 */
export function useReckoning(draft: Ref<string>) {
  let known: { text: string; answer: Reckoned } | null = null

  async function ask(text: string): Promise<Reckoned> {
    const said = now(text)
    if (said) return said
    const sum = /[a-z{]/i.test(text) ? text : text.replace(/,/g, '.')
    const { result, error } = await core.ask('reckon', sum)
    const answer = result ?? { sentence: error ?? "it can't be calculated right now" }
    known = { text, answer }
    return answer
  }

  /** What is known already. */
  function now(text: string): Reckoned | undefined {
    const value = plain(text)
    if (value !== undefined) return { value }
    return known?.text === text ? known.answer : undefined
  }

  watch(draft, (text) => {
    if (text.trim()) void ask(text.trim())
  })
  return { ask, now }
}
