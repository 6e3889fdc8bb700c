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
  { keys: 'H', what: 'while it is held: the cables of the picked control' },
  { keys: 'Ctrl A', what: 'select all that is neither hidden nor locked' },
  { keys: 'Ctrl D', what: 'duplicate with its links' },
  { keys: 'Ctrl C  Ctrl V', what: 'copy and paste items' },
  { keys: 'Ctrl G', what: 'group; on a graph: fold the slips that are picked' },
  { keys: 'F', what: 'fit the composition into the viewport' },
  { keys: 'Alt ↑ ↓ ← →', what: 'nudge what is selected; with Shift ten pixels' },
  { keys: 'Alt', what: 'while dragging in the viewport: do without snapping' },
  { keys: 'M', what: 'show or hide all that is drawn over the picture' },
  { keys: 'P', what: 'while it is held: drag the pivot' },
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
    c: () => (workspace.addingControl = true),
    k: pin,
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
