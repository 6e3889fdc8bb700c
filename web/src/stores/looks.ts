import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { typeAhead } from '@/composables/typingAhead'
import { core } from '@/core/client'
import type { Id } from '@/core/types'
import { useDocument } from './document'
import { usePlayback } from './playback'

/** What controls stood at, kept by names: of one drawer, or, with no item, of all. */
export const useLooks = defineStore('looks', () => {
  const doc = useDocument()
  const playback = usePlayback()
  const all = computed(() => doc.composition?.looks ?? [])
  const of = (item: Id) => all.value.filter((l) => (l.of ?? '') === item)

  /** Those that everything stands at. */
  const shown = ref<Id[]>([])
  const look = useDebounceFn(async () => {
    if (all.value.length) shown.value = (await core.ask('looks shown', null)).result ?? []
  }, 80)
  watch(() => [doc.rested, playback.frame, all.value] as const, look, { immediate: true })

  /** The look that is to be given another name. */
  const naming = ref<Id>()
  async function keep(item: Id): Promise<void> {
    const give = typeAhead() // to the field of its name
    const made = await doc.gesture('keep look', { of: item })
    if (give.wanted()) naming.value = made?.made?.[0] // else the name that it was given will do
    if (!made) give.up()
  }
  const again = (id: Id): Promise<unknown> => doc.gesture('keep look', { look: id })
  const apply = (id: Id): Promise<unknown> => doc.gesture('apply look', { look: id })
  const step = (item: Id, by: 1 | -1): Promise<unknown> => doc.gesture('step look', { of: item, by })
  const rename = (id: Id, name: string): Promise<unknown> => doc.gesture('name look', { look: id, name })
  const remove = (id: Id): Promise<unknown> => doc.operations({ op: 'look.remove', look: id })
  const mix = (item: Id): Promise<unknown> => doc.gesture('mix looks', { looks: of(item).map((l) => l.id), on: item })

  /** The look that is shown for as long as it is held. */
  const held = ref<Id>()
  function hold(id: Id): void {
    held.value = id
    void doc.preview('apply look', { look: id })
  }
  function letGo(): void {
    if (!held.value) return
    held.value = undefined
    void doc.cancelPreview()
  }

  return { of, shown, naming, keep, again, apply, step, rename, remove, mix, held, hold, letGo }
})
