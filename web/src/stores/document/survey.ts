import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { core } from '@/core/client'
import type { Check, Id } from '@/core/types'

/** What all links together come to: asked for behind the picture, not before it. */
export function useSurvey() {
  const drives = shallowRef<Record<string, number>>({})
  /** The items that each property drives directly, by "item/property". */
  const followers = shallowRef<Record<string, Id[] | null>>({})
  const checks = shallowRef<Check[]>([])
  /** The texts of formulas, by "item/link" or the id of a link on a roster. */
  const formulas = shallowRef<Record<string, string>>({})

  /** Whether all this is known: it comes a moment after a project is opened. */
  const surveyed = ref(false)

  const soon = useDebounceFn(async () => {
    const { result } = await core.ask('survey', null)
    if (!result) return
    surveyed.value = true
    drives.value = result.drives ?? {}
    followers.value = result.followers ?? {}
    checks.value = result.checks ?? []
    formulas.value = result.formulas ?? {}
  }, 60)

  function clear(): void {
    surveyed.value = false
    drives.value = followers.value = formulas.value = {}
    checks.value = []
  }

  return { read: { surveyed, drives, followers, checks, formulas }, soon, clear }
}
