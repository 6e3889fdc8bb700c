import { useEventListener } from '@vueuse/core'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import { hand, layer, named, written } from './hand'
import { useItemCommands } from './itemCommands'

export interface Key {
  keys: string
  what: string
}

/** The sheet of keys, as it is shown with "?". */
export const sheet: Key[] = [
  { keys: 'Space', what: 'Play or pause' },
  { keys: '← →', what: 'Step one frame (Shift: ten)' },
  { keys: 'Home End', what: 'First and last frame' },
  { keys: 'L', what: 'Link the selected property: find a source' },
  { keys: 'A', what: 'Add an item' },
  { keys: 'C', what: 'New control' },
  { keys: 'K', what: 'Add or remove a pin (Shift: pin the whole drawer)' },
  { keys: 'D', what: 'Desk as a tall panel to perform on, and back' },
  { keys: 'N', what: 'Next pin (Shift: previous)' },
  { keys: 'Del', what: 'Delete what is selected' },
  { keys: '1 2 3 4', what: 'Desk, Curves, Ledger, Graph' },
  { keys: 'G', what: 'Raise or lower the graph over the viewport' },
  { keys: '/', what: 'Graph: search for what to add, or a slip' },
  { keys: '← → Enter L', what: 'Graph, reached by keyboard: along the wires, into a slip, connect by typing' },
  { keys: 'Alt', what: 'While dragging a slip: pull it out of its wires' },
  { keys: 'H', what: 'Hold: show the cables of the selected control' },
  { keys: 'Ctrl A', what: 'Select all (visible, unlocked)' },
  { keys: 'Ctrl D', what: 'Duplicate with links' },
  { keys: 'Ctrl C  Ctrl V', what: 'Copy and paste items' },
  { keys: 'Ctrl G', what: 'Group (graph: fold the selected slips)' },
  { keys: 'F', what: 'Fit the composition in the viewport' },
  { keys: 'Alt ↑ ↓ ← →', what: 'Nudge the selection (Shift: ten pixels)' },
  { keys: 'Alt', what: 'Disable snapping while dragging' },
  { keys: 'M', what: 'Show or hide all marks over the picture' },
  { keys: 'P', what: 'Hold: drag the pivot' },
  { keys: 'Ctrl Z', what: 'Undo (Shift: redo)' },
  { keys: 'Esc', what: 'Cancel, or clear the selection' },
  { keys: '?', what: 'This list' },
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

  /** Removes what the hand is at: never what was picked elsewhere before. */
  function remove(): void {
    const { control, pins } = selection
    if (hand.panel === 'desk' || hand.panel === 'curves') {
      if (pins.length) {
        void doc.gesture('drop pins', { pins })
        selection.pins = []
      } else if (hand.panel === 'desk' && control && doc.items.get(control.item)?.controls?.some((c) => c.id === control.property))
        void doc.gesture('remove control', { item: control.item, control: control.property })
    } else if (hand.panel === 'items' || (hand.panel === 'viewport' && !workspace.viewport?.remove())) items.remove()
  }

  let holding = false // the key of the pivot
  const commands: Record<string, () => void> = {
    ' ': playback.toggle,
    ArrowLeft: () => playback.seek(playback.frame - 1),
    ArrowRight: () => playback.seek(playback.frame + 1),
    'Shift+ArrowLeft': () => playback.seek(playback.frame - 10),
    'Shift+ArrowRight': () => playback.seek(playback.frame + 10),
    Home: () => playback.seek(0),
    End: () => playback.seek(playback.frames - 1),
    l: () => (wiring.finding = selection.targets.length ? selection.targets : []),
    a: () => (workspace.adding = true),
    c: () => (workspace.addingControl = true),
    k: pin,
    d: () => {
      workspace.performing = workspace.tab !== 'desk' || !workspace.performing
      workspace.tab = 'desk'
    },
    'Shift+k': () => {
      const owner = drawer()
      if (owner) void doc.gesture('pin', { drawer: owner, targets: [] })
    },
    n: () => toPin(1),
    'Shift+n': () => toPin(-1),
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
    h: () => (workspace.cables = true),
    f: () => workspace.viewport?.fit(),
    m: () => (workspace.marks = !workspace.marks),
    p: () => {
      if (!workspace.pivoting) workspace.pivoting = holding = true
    },
    'Alt+ArrowLeft': () => workspace.viewport?.nudge(-1, 0),
    'Alt+ArrowRight': () => workspace.viewport?.nudge(1, 0),
    'Alt+ArrowUp': () => workspace.viewport?.nudge(0, 1),
    'Alt+ArrowDown': () => workspace.viewport?.nudge(0, -1),
    'Alt+Shift+ArrowLeft': () => workspace.viewport?.nudge(-10, 0),
    'Alt+Shift+ArrowRight': () => workspace.viewport?.nudge(10, 0),
    'Alt+Shift+ArrowUp': () => workspace.viewport?.nudge(0, 10),
    'Alt+Shift+ArrowDown': () => workspace.viewport?.nudge(0, -10),
    'Ctrl+a': () => selection.pickAll(doc.order.filter((id) => !doc.hidden.has(id) && !doc.items.get(id)?.locked)),
    'Ctrl+d': () => void items.duplicate(),
    'Ctrl+c': () => void items.copy(),
    'Ctrl+g': () => void items.group(),
    'Ctrl+z': doc.undo,
    'Ctrl+Shift+z': doc.redo,
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
  }

  /** Where a key belongs to what has the focus: a field, a button for the space bar. */
  function taken(event: KeyboardEvent): boolean {
    const at = event.target as HTMLElement
    if (written(at) || layer()) return true
    // A button that was only clicked keeps the focus, but somebody who presses space then wants to play.
    return (event.key === ' ' || event.key === 'Enter') && hand.byKeyboard && at.closest('button, a, [role=switch], [role=button]') !== null
  }

  function obey(event: KeyboardEvent): void {
    const key = named(event)
    const command = commands[key]
    if (!command || (key.length === 1 && key !== ' ' && !workspace.letterKeys)) return
    // Text that is marked somewhere is what is copied then.
    if (key === 'Ctrl+c' && window.getSelection()?.toString()) return
    event.preventDefault()
    event.stopPropagation()
    command()
  }

  const released = (event: KeyboardEvent): void => {
    if (holding && named(event).endsWith('p')) workspace.pivoting = holding = false
    if (named(event).endsWith('h')) workspace.cables = false
  }
  useEventListener(window, 'keyup', released)

  const timely = /^(Shift\+)?(ArrowLeft|ArrowRight)$|^(Home|End)$/
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (doc.status !== 'ready') return
      if (event.key === 'Escape') return closeOnly()
      // Time keys move time, but for what was reached by keyboard.
      if (timely.test(named(event)) && !hand.byKeyboard && !taken(event)) obey(event)
    },
    { capture: true },
  )
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (!event.defaultPrevented && !taken(event) && doc.status === 'ready') obey(event)
  })

  /** Esc closes what lies on top, and no more: what does not listen to it is left as by a press beside it. */
  function closeOnly(): void {
    const top = layer()
    if (!top || top.matches('[role=dialog]')) return
    setTimeout(() => {
      if (layer() !== top) return
      for (const type of ['mousedown', 'mouseup', 'click']) document.body.dispatchEvent(new MouseEvent(type, { bubbles: true }))
    })
  }
}
