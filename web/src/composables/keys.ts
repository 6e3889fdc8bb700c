import { useEventListener } from '@vueuse/core'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import { useItemCommands } from './itemCommands'

export interface Key {
  keys: string
  what: string
}

/** The sheet of keys, as it is shown with "?". */
export const sheet: Key[] = [
  { keys: 'Space', what: 'play or stop' },
  { keys: '← →', what: 'one frame; with Shift ten' },
  { keys: 'Home End', what: 'first and last frame' },
  { keys: 'L', what: 'link: find a source for the selected property' },
  { keys: 'C', what: 'new control' },
  { keys: 'K', what: 'pin at this frame; with Shift the whole drawer' },
  { keys: 'N', what: 'next pin; with Shift the one before' },
  { keys: 'Del', what: 'remove what is selected' },
  { keys: '1 2 3 4', what: 'Desk, Curves, Ledger, Graph' },
  { keys: 'G', what: 'pull the graph up over the viewport, and down again' },
  { keys: '/', what: 'on a graph: find what to put down, or a slip' },
  { keys: '← → Enter L', what: 'on a graph: along the wires, into a slip, a cable by typing' },
  { keys: 'Alt', what: 'while dragging a slip: pull it out of its wires' },
  { keys: 'H', what: 'show or hide the cables of the picked control' },
  { keys: 'Ctrl A', what: 'select all that is neither hidden nor locked' },
  { keys: 'Ctrl D', what: 'duplicate with its links' },
  { keys: 'Ctrl C  Ctrl V', what: 'copy and paste items' },
  { keys: 'Ctrl G', what: 'group; on a graph: fold the slips that are picked' },
  { keys: 'F', what: 'fit the composition into the viewport' },
  { keys: '↑ ↓ ← →', what: 'in the viewport: nudge what is selected; with Shift ten pixels' },
  { keys: 'Alt', what: 'while dragging in the viewport: do without snapping' },
  { keys: 'Ctrl Z', what: 'undo; with Shift redo' },
  { keys: 'Esc', what: 'let go of a cable, or of the selection' },
  { keys: '?', what: 'this sheet' },
]

/** Listens for the keys of the studio, wherever no text is being written. */
export function useKeys(): void {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()
  const wiring = useWiring()
  const workspace = useWorkspace()
  const items = useItemCommands()

  function drawer(): string | undefined {
    return selection.control?.item ?? selection.items.find((i) => i.controls?.length)?.id
  }

  /** Goes to the nearest pin before or after the playhead, of the picked control or of all. */
  function toPin(direction: 1 | -1): void {
    const frames: number[] = []
    for (const [id, item] of doc.items) {
      for (const [key, state] of Object.entries(item.states ?? {})) {
        const c = selection.control
        if (!c || (c.item === id && c.property === key)) frames.push(...(state.pins ?? []).map((p) => p.frame))
      }
    }
    const ahead = frames.filter((f) => (f - playback.frame) * direction > 0).sort((a, b) => (a - b) * direction)
    if (ahead[0] !== undefined) playback.seek(ahead[0])
  }

  function pin(): void {
    if (selection.targets.length) void doc.gesture('pin', { targets: selection.targets, toggle: true })
  }

  function remove(): void {
    if (selection.pins.length) {
      void doc.gesture('drop pins', { pins: selection.pins })
      selection.pins = []
    } else if (selection.control && doc.items.get(selection.control.item)?.controls?.some((c) => c.id === selection.control?.property)) {
      void doc.operations({ op: 'control.remove', item: selection.control.item, control: selection.control.property })
    } else if (!workspace.viewport?.remove()) items.remove()
  }

  const commands: Record<string, () => void> = {
    ' ': playback.toggle,
    ArrowLeft: () => playback.seek(playback.frame - 1),
    ArrowRight: () => playback.seek(playback.frame + 1),
    'Shift+ArrowLeft': () => playback.seek(playback.frame - 10),
    'Shift+ArrowRight': () => playback.seek(playback.frame + 10),
    Home: () => playback.seek(0),
    End: () => playback.seek(playback.frames - 1),
    l: () => (wiring.finding = selection.targets.length ? selection.targets : []),
    c: () => (workspace.addingControl = true),
    k: pin,
    'Shift+K': () => {
      const owner = drawer()
      if (owner) void doc.gesture('pin', { drawer: owner, targets: [] })
    },
    n: () => toPin(1),
    'Shift+N': () => toPin(-1),
    Delete: remove,
    Backspace: remove,
    1: () => (workspace.tab = 'desk'),
    2: () => (workspace.tab = 'curves'),
    3: () => (workspace.tab = 'ledger'),
    4: () => (workspace.tab = 'graph'),
    g: () => {
      workspace.pulledUp = !workspace.pulled
      workspace.tab = 'graph'
    },
    h: () => (workspace.cables = !workspace.cables),
    f: () => workspace.viewport?.fit(),
    'Ctrl+a': () => selection.pickAll(doc.order.filter((id) => !doc.hidden.has(id) && !doc.items.get(id)?.locked)),
    'Ctrl+d': () => void items.duplicate(),
    'Ctrl+c': () => void items.copy(),
    'Ctrl+g': () => void items.group(),
    'Ctrl+z': doc.undo,
    'Ctrl+Shift+Z': doc.redo,
    'Ctrl+y': doc.redo,
    Escape: () => {
      if (wiring.finding)
        wiring.finding = null // it may not have the focus yet
      else if (wiring.source) wiring.letGo()
      else if (doc.poses.length) void doc.gesture('use pose', { targets: doc.poses, as: '' })
      else if (workspace.shaping) workspace.shaping = null
      else selection.clear()
    },
    '?': () => (workspace.keysShown = true),
    'Shift+?': () => (workspace.keysShown = true),
  }

  let byKeyboard = false // whether the focus came where it is by keyboard
  useEventListener(window, 'pointerdown', () => (byKeyboard = false), { capture: true })
  useEventListener(window, 'keydown', (event: KeyboardEvent) => (byKeyboard ||= event.key === 'Tab'), { capture: true })

  /** Where a key belongs to what has the focus: a field, a button for the space bar. */
  function taken(event: KeyboardEvent): boolean {
    const at = event.target as HTMLElement
    if (at.closest('input, textarea, [contenteditable]')) return true
    if (at.closest('[role=dialog]') && !at.closest('[class*=leave-]')) return true // one that fades away takes no more keys
    // A button that was only clicked keeps the focus, but somebody who presses space then wants to play.
    return (event.key === ' ' || event.key === 'Enter') && byKeyboard && at.closest('button, a, [role=switch], [role=button]') !== null
  }

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.defaultPrevented || taken(event) || doc.status !== 'ready') return
    const parts = [event.ctrlKey || event.metaKey ? 'Ctrl' : '', event.shiftKey ? 'Shift' : '', event.key].filter(Boolean)
    const command = commands[parts.join('+')]
    if (!command || event.altKey) return
    // Text that is marked somewhere is what is copied then.
    if (event.key === 'c' && event.ctrlKey && window.getSelection()?.toString()) return
    event.preventDefault()
    command()
  })
}
