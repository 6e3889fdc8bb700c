import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { said, tell } from '@/composables/notify'
import { core } from '@/core/client'
import type { Difference, Id, Project } from '@/core/types'
import { useDocument } from './document'

/** States of the composition that were kept: which one is looked at, and how much of the picture it takes. */
export const useBefore = defineStore('before', () => {
  const doc = useDocument()
  /** Those of the composition that is shown. */
  const list = computed(() => doc.befores.filter((b) => b.composition === doc.compositionId))
  const picked = ref<Id | null>(null)
  const chosen = computed(() => list.value.find((b) => b.id === picked.value) ?? list.value.at(-1))
  /** Whether it is compared with; and seen alone, while a key is held. */
  const comparing = ref(false)
  const held = ref(false)
  /** Which share of the picture, from the left, shows what was before. */
  const share = ref(0.5)
  const shown = computed(() => !!chosen.value && (comparing.value || held.value))
  watch(
    () => doc.compositionId,
    () => (comparing.value = held.value = false),
  )
  watch(chosen, (c) => c ?? (comparing.value = false))

  async function keep(): Promise<void> {
    const made = await doc.gesture('keep before', {})
    if (made?.made?.[0]) picked.value = made.made[0]
  }
  function hold(on: boolean): void {
    if (on && !chosen.value) return said('Nothing is kept yet: choose Before, Keep as before, under the picture.')
    held.value = on
  }
  function compare(id: Id): void {
    picked.value = id
    comparing.value = true
  }
  const goBack = (id: Id) => doc.gesture('go back', { before: id })
  const rename = (id: Id, name: string) => doc.gesture('operations', { ops: [{ op: 'before.set', before: id, name }] })
  const remove = (id: Id) => doc.gesture('operations', { ops: [{ op: 'before.remove', before: id }] })

  /** The project that holds a state alone. */
  async function projectOf(id: Id): Promise<Project | null> {
    const { result, error } = await core.ask('before', id)
    if (error) tell(new Error(error))
    return (result as Project | undefined) ?? null
  }
  async function differences(id: Id): Promise<Difference[]> {
    return (await core.ask('differences', id)).result ?? []
  }

  return { list, chosen, comparing, held, share, shown, keep, hold, compare, goBack, rename, remove, projectOf, differences }
})
