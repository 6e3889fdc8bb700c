import { useEventListener } from '@vueuse/core'
import { useDocument } from '@/stores/document'
import { useBefore } from '@/stores/before'
import { useWorkspace } from '@/stores/workspace'
import { useCommands } from './commands'
import { closers, hand, layer, named, written } from './hand'

/** Listens for the keys of the studio, wherever no text is being written. */
export function useKeys(): void {
  const doc = useDocument()
  const workspace = useWorkspace()
  const before = useBefore()
  const all = useCommands()
  workspace.commands = all
  const commands = new Map(all.flatMap((c) => Object.entries(c.on)))
  let holding = false // the key of the pivot

  /** Where a key belongs to what has the focus: a field, a button for the space bar. */
  function taken(event: KeyboardEvent): boolean {
    const at = event.target as HTMLElement
    const top = layer()
    const panels = /^(Shift\+)?F6$/.test(named(event))
    if (top && !(panels && top.matches('.aside'))) return true
    if (!top && written(at) && !panels && named(event) !== 'Ctrl+k') return true
    // A button that was only clicked keeps the focus, but somebody who presses space then wants to play.
    return (event.key === ' ' || event.key === 'Enter') && hand.byKeyboard && at.closest('button, a, [role=switch], [role=button]') !== null
  }

  function obey(event: KeyboardEvent): void {
    const key = named(event)
    const command = commands.get(key)
    if (!command || (key.length === 1 && key !== ' ' && !workspace.letterKeys)) return
    // Text that is marked somewhere is what is copied then.
    if (key === 'Ctrl+c' && window.getSelection()?.toString()) return
    event.preventDefault()
    event.stopPropagation()
    if (key === 'p') holding ||= !workspace.pivoting // by its tool it stays
    command()
  }

  const released = (event: KeyboardEvent): void => {
    if (holding && named(event).endsWith('p')) workspace.pivoting = holding = false
    if (named(event).endsWith('h')) workspace.cables = false
    if (named(event).endsWith('b')) before.held = false
  }
  useEventListener(window, 'keyup', released)

  const timely = /^(Shift\+)?(ArrowLeft|ArrowRight)$|^(Home|End)$/
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (doc.status !== 'ready') return
      if (event.key === 'Escape') return closeOnly(event)
      // Time keys move time, but for what was reached by keyboard.
      if (timely.test(named(event)) && !hand.byKeyboard && !taken(event)) obey(event)
    },
    { capture: true },
  )
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (!closers.has(event) && !event.defaultPrevented && !taken(event) && doc.status === 'ready') obey(event)
  })

  /** Esc closes what lies on top, and no more: what does not listen to it is left as by a press beside it. */
  function closeOnly(event: KeyboardEvent): void {
    const top = layer()
    if (!top) return
    closers.add(event) // it may be gone before the event has come to what else hears it
    if (top.matches('[role=dialog]')) {
      // One that stands aside hears what is pressed in it; the hand may be elsewhere.
      if (!top.contains(event.target as Node)) top.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }))
      return
    }
    setTimeout(() => {
      if (layer() !== top) return
      for (const type of ['mousedown', 'mouseup', 'click']) document.body.dispatchEvent(new MouseEvent(type, { bubbles: true }))
    })
  }
}
