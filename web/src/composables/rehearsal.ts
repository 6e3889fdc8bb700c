import { useLocalStorage } from '@vueuse/core'
import { computed, ref, shallowRef, type Ref as Reactive } from 'vue'
import { core } from '@/core/client'
import { standing } from '@/core/standing'
import type { Finding, Id, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { sentence } from './notify'

/** A rehearsal as it is kept by the browser: the last of each composition. */
interface Kept {
  at: string // when it was, as ISO 8601
  found: Finding[]
}

/** How many findings are kept and shown. */
const most = 100

/** How long the core is asked to work at a time, in milliseconds, so that everything else is answered in between. */
const turn = 12

/** Sweeps controls over their ranges, piece by piece, and shows what was found. */
export function useRehearsal(project: Reactive<Id>) {
  const doc = useDocument()
  const playback = usePlayback()
  const kept = useLocalStorage<Record<string, Kept>>('wunderkammer:rehearsals', {})
  const key = computed(() => `${project.value}/${doc.composition?.id ?? ''}`)
  const last = computed(() => kept.value[key.value])
  /** How much of it is done, in percent; null while none is under way. */
  const share = ref<number | null>(null)
  const failed = ref('')
  const shown = shallowRef<Finding | null>(null)
  let cancelled = false

  async function run(controls: Ref[], overlaps: boolean): Promise<void> {
    back()
    cancelled = false
    failed.value = ''
    share.value = 0
    let moments = 1
    for (let begin: object | null = { frame: playback.frame, controls, overlaps }; ;) {
      const from = performance.now()
      const { result, error } = await core.ask('rehearse', { begin: begin as never, moments })
      if (!result || error) {
        failed.value = sentence(error ?? 'The rehearsal broke off.')
        break
      }
      begin = null
      share.value = result.of ? Math.floor((100 * result.done) / result.of) : 100
      moments = Math.max(1, Math.round(moments * Math.min(4, turn / Math.max(1, performance.now() - from))))
      if (result.over || cancelled) {
        if (!cancelled) kept.value = { ...kept.value, [key.value]: { at: new Date().toISOString(), found: result.found.slice(0, most) } }
        break
      }
    }
    share.value = null
  }

  /** A picture of the moment of a finding, as an address. */
  async function picture(f: Finding): Promise<string> {
    const { result } = await core.ask('moment', { frame: f.frame, settings: f.settings })
    return result ? 'data:image/svg+xml,' + encodeURIComponent(result) : ''
  }

  /** Shows the moment of a finding until something else is done; the document stays as it is. */
  async function show(f: Finding): Promise<void> {
    await doc.cancelPreview()
    shown.value = f
    playback.seek(f.frame)
    const pinned = (at: Ref): number[] => (doc.state(at.item, at.property).pins ?? []).map((p) => p.frame)
    const ops = f.settings.flatMap(({ ref: at, value }) => standing(at, value, pinned(at)))
    if (ops.length) await doc.preview('operations', { ops: doc.here(...ops) })
  }

  function back(): void {
    if (shown.value) void doc.cancelPreview()
    shown.value = null
  }

  return { share, failed, last, shown, run, picture, show, back, cancel: () => (cancelled = true) }
}
