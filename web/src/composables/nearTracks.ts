import { inject, onBeforeUnmount, provide, reactive, watch, type InjectionKey, type Ref } from 'vue'
import type { Id } from '@/core/types'

const key: InjectionKey<Map<Id, number>> = Symbol('how many tracks of an item are near sight')

/** For the panel that tracks lie in: says whether any of an item is near sight. */
export function provideNearTracks(): (item: Id) => boolean {
  const near = reactive(new Map<Id, number>())
  provide(key, near)
  return (item) => (near.get(item) ?? 0) > 0
}

/** For a track: tells the panel whether it is near sight. */
export function useNearTrack(item: Id, near: Ref<boolean>): void {
  const all = inject(key, undefined)
  const count = (by: number): void => void all?.set(item, (all.get(item) ?? 0) + by)
  watch(near, (is, was) => is !== was && count(is ? 1 : -1))
  onBeforeUnmount(() => near.value && count(-1))
}
