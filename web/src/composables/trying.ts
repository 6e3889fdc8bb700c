import { useDocument } from '@/stores/document'
import { dialog, said } from './notify'

/** Trying out: what is done meanwhile is kept or discarded at its end, by a word of the user. */
export function useTrying() {
  const doc = useDocument()

  const steps = (): string => (doc.tried === 1 ? '1 change' : `${doc.tried} changes`)
  const begin = (): void => void doc.tryOut(true)
  const discard = (): void => void doc.tryOut(false)
  async function keep(): Promise<void> {
    const kept = doc.tried ? `${steps()} kept.` : ''
    await doc.keepTried()
    if (kept) said(kept)
  }

  /** Begins, or ends: where something was changed, it is asked what becomes of it. */
  function toggle(): void {
    if (doc.tried === null) return begin()
    if (!doc.tried) return discard()
    dialog('warning', {
      title: 'End trying out',
      content: `You made ${steps()} while trying out. Keep them?`,
      positiveText: 'Keep',
      negativeText: 'Discard',
      onPositiveClick: () => void keep(),
      onNegativeClick: discard,
    })
  }
  return { begin, discard, keep, toggle, steps }
}
