import { useBefore } from '@/stores/before'
import { useBox } from '@/stores/box'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useLooks } from '@/stores/looks'
import { usePlayback } from '@/stores/playback'
import { useRecording } from '@/stores/recording'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import { usePosing } from './posing'
import { useClipboard } from './clipboard'
import { atTracks, hand } from './hand'
import { typeAhead, typing } from './typingAhead'
import { menuOfFocus, toPanel } from './panels'
import { usePinCommands } from './pinCommands'
import { useItemCommands } from './itemCommands'
import { said } from './notify'
import { themeName } from './theme'
import { useTrying } from './trying'

/** Something that the studio does, by a key or found by its name. */
export interface Command {
  what: string
  /** The keys as they are shown; empty for none. */
  keys: string
  /** The keys as they are pressed, each with what it does. */
  on: Record<string, () => void>
  /** What it does where it is found by its name; absent where only a key makes sense. */
  run?: () => void
  /** Other words that it is looked for by. */
  also?: string
}

/** What is shown with the keys, and is no command. */
export const hints: { keys: string; what: string }[] = [
  { keys: '← → Enter L', what: 'Graph, reached by keyboard: along the wires, into a slip, connect by typing' },
  { keys: 'X', what: 'Graph: take the selected slips out of their cables' },
  { keys: 'Alt', what: 'Disable snapping while dragging' },
  { keys: 'Shift', what: 'Keep the cable in the hand; hold a drag to one axis' },
]

/** All commands of the studio. */
export function useCommands(): Command[] {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()
  const wiring = useWiring()
  const posing = usePosing()
  const workspace = useWorkspace()
  const items = useItemCommands()
  const pins = usePinCommands()
  const clipboard = useClipboard()
  const recording = useRecording()
  const box = useBox()
  const before = useBefore()
  const trying = useTrying()
  const looks = useLooks()
  const graphs = useGraphs()

  function drawer(): string | undefined {
    return selection.control?.item ?? selection.items.find((i) => i.controls?.length)?.id
  }

  /** The drawer whose looks are stepped through: the one in the hand, where it has some; else all. */
  const stepped = (): string => (looks.of(drawer() ?? '').length ? (drawer() ?? '') : '')

  /** Goes to the nearest pin before or after the playhead, of the picked control or of all. */
  function toPin(direction: 1 | -1): void {
    const frames: number[] = []
    for (const id of doc.order) {
      for (const [key, state] of Object.entries(doc.statesOf(id))) {
        const c = selection.control
        if (!c || (c.item === id && c.property === key)) frames.push(...(state.pins ?? []).map((p) => p.frame))
      }
    }
    const ahead = frames.filter((f) => (f - playback.frame) * direction > 0).sort((a, b) => (a - b) * direction)
    if (ahead[0] !== undefined) playback.seek(ahead[0])
  }

  function compare(): void {
    if (before.comparing) before.comparing = false
    else if (before.chosen) before.compare(before.chosen.id)
    else before.hold(true) // which says that there is none
  }

  function toMarker(direction: 1 | -1): void {
    const ahead = (doc.composition?.markers ?? []).map((m) => m.frame).filter((f) => (f - playback.frame) * direction > 0)
    if (ahead.length) playback.seek(direction > 0 ? Math.min(...ahead) : Math.max(...ahead))
    else said(direction > 0 ? 'There is no marker after the playhead.' : 'There is no marker before the playhead.')
  }

  function pin(): void {
    if (selection.targets.length) void doc.gesture('pin', { targets: selection.targets, toggle: false })
  }

  /** Removes what the hand is at: never what was picked elsewhere before. */
  function remove(): void {
    const controls = selection.controls.filter((r) => doc.items.get(r.item)?.controls?.some((c) => c.id === r.property))
    if (atTracks()) {
      if (selection.pins.length) void pins.drop()
      else if (hand.panel === 'desk' && controls.length) void doc.gesture('remove controls', { controls })
    } else if (hand.panel === 'poses') said('Delete a stop by its menu (⋯), and what it moves by the bin of its row.')
    else if (hand.panel === 'items' || (hand.panel === 'viewport' && !workspace.viewport?.remove())) items.remove()
  }

  function pinDrawer(): void {
    const owner = drawer()
    if (owner) void doc.gesture('pin', { drawer: owner, targets: [] })
  }
  function findSource(): void {
    if (selection.targets.length) typeAhead() // else there is no field, but a hint
    wiring.finding = selection.targets.length ? selection.targets : []
  }
  function perform(): void {
    workspace.performing = workspace.tab !== 'desk' || !workspace.performing
    workspace.tab = 'desk'
  }
  function raiseGraph(): void {
    workspace.pulledUp = !workspace.pulled
    showGraph()
  }
  function showGraph(): void {
    workspace.tab = 'graph'
    graphs.wanted = 'keys'
  }
  /** Searches for what to put on the sheet; the first time, on a new one. */
  async function putOnSheet(): Promise<void> {
    const give = typeAhead()
    workspace.tab = 'graph'
    if (!graphs.graph) await graphs.make({})
    if (graphs.graph && give.wanted()) graphs.wanted = 'search'
    else give.up()
  }
  function escape(): void {
    if (wiring.finding)
      wiring.finding = null // it may not have the focus yet
    else if (wiring.source) wiring.letGo()
    else if (posing.stop.at) void posing.end()
    else if (workspace.posesOf) workspace.posesOf = null
    else if (doc.poses.length) void doc.gesture('use pose', { targets: doc.poses, as: '' })
    else if (workspace.shaping) workspace.shaping = null
    else if (before.comparing) before.comparing = false
    else selection.clear()
  }
  const run = (way: 1 | -1) => (): void => void (recording.busy || playback.run(way))
  const step = (by: number) => (): void => playback.seek(playback.frame + by)
  const nudge = (x: number, y: number) => (): void => {
    if (clipboard.atPins()) void (x && pins.move(x))
    else workspace.viewport?.nudge(x, y)
  }
  const show = (tab: typeof workspace.tab) => (): void => void (workspace.tab = tab)
  const selectAll = (): void => selection.pickAll(doc.order.filter((id) => !doc.hidden.has(id) && !doc.items.get(id)?.locked))

  /** A command that is one key, or none. */
  const one = (what: string, keys: string, on: string, run: () => unknown, also?: string): Command => ({
    what,
    also,
    keys,
    on: on ? { [on]: () => void run() } : {},
    run: () => void run(),
  })

  /** What the menu of the items does with what is selected. */
  const atPins = (act: () => unknown) => (): void => void (selection.pins.length ? act() : said('Pick some pins first.'))
  const chosen = (key: string) => (): void => (selection.ids.length ? items.run(key) : said('Select an item first.'))

  return [
    one(
      'Search commands, items, properties and help',
      'Ctrl K',
      'Ctrl+k',
      typing(() => (workspace.searching = true)),
    ),
    {
      what: 'Next panel, and the one before',
      keys: 'F6  Shift F6',
      on: { F6: () => toPanel(1), 'Shift+F6': () => toPanel(-1) },
    },
    { what: 'Menu of what has the focus', keys: 'Shift F10', on: { 'Shift+F10': menuOfFocus, ContextMenu: menuOfFocus } },
    one('Play or pause', 'Space', ' ', playback.toggle, 'preview run start stop'),
    one('Play; again: twice as fast', '.', '.', run(1), 'preview shuttle forward speed'),
    one('Play backwards; again: twice as fast', ',', ',', run(-1), 'preview shuttle reverse rewind speed'),
    one(
      'Range: from the playhead on',
      '',
      '',
      () => playback.stay(playback.frame, playback.range?.[1] ?? playback.frames - 1),
      'loop in point work area',
    ),
    one('Range: up to the playhead', '', '', () => playback.stay(playback.range?.[0] ?? 0, playback.frame), 'loop out point work area'),
    one('Range: take it away', '', '', () => (playback.range = null), 'loop work area'),
    { what: 'Hold: see the picture as it was before', keys: 'B', on: { b: () => before.hold(true) } },
    one('Keep as before, to compare with', '', '', before.keep, 'snapshot version state reference'),
    one('Compare with what was kept, or end that', '', '', compare, 'snapshot version difference wipe'),
    one('Marker at the playhead', 'Shift M', 'Shift+m', () => doc.gesture('add marker', {}), 'cue label comment'),
    one('Next marker', '', '', () => toMarker(1), 'cue'),
    one('Previous marker', '', '', () => toMarker(-1), 'cue'),
    one('Insert or take out time at the playhead', '', '', () => (workspace.timing = {}), 'gap longer lengthen shorten room'),
    one('Keep a look of the drawer', '', '', () => looks.keep(drawer() ?? ''), 'snapshot state preset values'),
    one('Next look', '', '', () => looks.step(stepped(), 1), 'snapshot state preset cycle'),
    one('Look before', '', '', () => looks.step(stepped(), -1), 'snapshot state preset cycle'),
    one('Record what is armed, or stop', 'Shift Space', 'Shift+ ', recording.toggle, 'perform capture take live'),
    one('Box with faders: connect one', '', '', box.connect, 'midi controller hardware'),
    one('Box with faders: open the simulated one', '', '', box.openSimulated, 'midi controller virtual'),
    one('Box with faders: learn, for what is armed or selected', '', '', box.learn, 'midi controller bind map'),
    {
      what: 'Step one frame (Shift: ten)',
      keys: '← →',
      on: { ArrowLeft: step(-1), ArrowRight: step(1), 'Shift+ArrowLeft': step(-10), 'Shift+ArrowRight': step(10) },
    },
    one('First frame', 'Home', 'Home', () => playback.seek(0)),
    one('Last frame', 'End', 'End', () => playback.seek(playback.frames - 1)),
    one('Link the selected property: find a source', 'L', 'l', findSource, 'connect wire drive parent expression'),
    one(
      'Add an item',
      'A',
      'a',
      typing(() => (workspace.adding = true)),
      'create insert layer object import',
    ),
    one(
      'New control',
      'C',
      'c',
      typing(() => (workspace.addingControl = true)),
      'create slider knob dial parameter',
    ),
    one('Pin at this frame', 'K', 'k', pin, 'keyframe key add a pin'),
    one('Pin the whole drawer', 'Shift K', 'Shift+k', pinDrawer, 'keyframe key'),
    one('Auto pin', '', '', () => (playback.autoPin = !playback.autoPin), 'automatic keyframe record'),
    one('Perform: the Desk as a tall panel', 'D', 'd', perform, 'faders live focus'),
    one('Reverse the picked pins', '', '', atPins(pins.reverse), 'keyframe key backwards'),
    one('Spread the picked pins evenly', '', '', atPins(pins.spread), 'keyframe key distribute'),
    one('Curve the path of the picked pins in space, or straighten it', '', '', atPins(pins.turnPath), 'motion path bezier spatial'),
    one('Even speed along the path of the picked pins', '', '', atPins(pins.evenSpeed), 'constant velocity'),
    one('Next pin', 'N', 'n', () => toPin(1), 'keyframe key'),
    one('Previous pin', 'Shift N', 'Shift+n', () => toPin(-1), 'keyframe key'),
    { what: 'Delete what is selected', keys: 'Del', on: { Delete: remove, Backspace: remove }, run: remove },
    one('Desk', '1', '1', show('desk'), 'panel controls faders timeline'),
    one('Curves', '2', '2', show('curves'), 'ease easing speed'),
    one('Ledger', '3', '3', show('ledger'), 'list table links expressions'),
    one('Graph', '4', '4', showGraph, 'nodes'),
    one('Put something on the sheet of a graph', '/', '/', putOnSheet, 'node slip operator function add'),
    one('Raise or lower the graph over the viewport', 'G', 'g', raiseGraph),
    { what: 'Hold: show the cables of the selected control', keys: 'H', on: { h: () => (workspace.cables = true) } },
    one('Show or hide all marks over the picture', 'M', 'm', () => (workspace.marks = !workspace.marks), 'overlays handles'),
    { what: 'Hold: drag the pivot', keys: 'P', on: { p: () => (workspace.pivoting = true) } },
    one('Safe margins', '', '', () => (workspace.margins = !workspace.margins), 'guides'),
    one('Motion paths', '', '', () => (workspace.paths = !workspace.paths), 'trajectory'),
    one('Fit the composition in the viewport', 'F', 'f', () => workspace.viewport?.fit(), 'zoom reset view'),
    {
      what: 'Nudge the selection (Shift: ten pixels)',
      keys: 'Alt ↑ ↓ ← →',
      on: {
        'Alt+ArrowLeft': nudge(-1, 0),
        'Alt+ArrowRight': nudge(1, 0),
        'Alt+ArrowUp': nudge(0, 1),
        'Alt+ArrowDown': nudge(0, -1),
        'Alt+Shift+ArrowLeft': nudge(-10, 0),
        'Alt+Shift+ArrowRight': nudge(10, 0),
        'Alt+Shift+ArrowUp': nudge(0, 10),
        'Alt+Shift+ArrowDown': nudge(0, -10),
      },
    },
    one('Select all (visible, unlocked)', 'Ctrl A', 'Ctrl+a', selectAll),
    one('Duplicate with links', 'Ctrl D', 'Ctrl+d', items.duplicate, 'clone copy'),
    one('Add another, wired the same', 'Shift D', 'Shift+d', items.more),
    one('Copy items, or pins', 'Ctrl C', 'Ctrl+c', clipboard.copy),
    { what: 'Paste items, or pins', keys: 'Ctrl V', on: {}, run: clipboard.paste },
    one('Group', 'Ctrl G', 'Ctrl+g', items.group, 'parent null'),
    one('Copies: repeat the selection', '', '', () => items.run('copies'), 'clone repeat array instances'),
    one('A time of its own for the selection', '', '', chosen('retime'), 'remap speed slow fast reverse freeze'),
    one('Break up the selected copies or piece into items', '', '', () => items.run('break up')),
    one(
      'Recipes: a rig in one step on what is selected',
      'R',
      'r',
      typing(() => (workspace.recipe = '')),
      'preset template rig',
    ),
    one(
      'Rehearsal: move all controls over their ranges, and find what goes wrong',
      'Shift R',
      'Shift+r',
      () => (workspace.rehearsing = true),
      'rehearse test check',
    ),
    one(
      'Hand off controls of the composition',
      '',
      '',
      () => (workspace.handingOff = true),
      'share give colleague interface expose template publish piece',
    ),
    one('Export the composition as a file', '', '', () => (workspace.exporting = true), 'render movie video mp4 png sequence output save'),
    one('Try out: change anything, then keep or discard it', '', '', trying.toggle, 'experiment'),
    one('Centre the pivot of the selection', '', '', chosen('pivot'), 'center anchor'),
    one('Split the selected text into letters', '', '', chosen('letters'), 'characters'),
    one('Detach the selection from its parent', '', '', chosen('detach'), 'unparent'),
    one('Undo', 'Ctrl Z', 'Ctrl+z', doc.undo),
    {
      what: 'Redo',
      keys: 'Ctrl Shift Z',
      on: { 'Ctrl+Shift+z': () => void doc.redo(), 'Ctrl+y': () => void doc.redo() },
      run: () => void doc.redo(),
    },
    { what: 'Cancel, or clear the selection', keys: 'Esc', on: { Escape: escape } },
    one(
      'Switch between daylight and lamplight',
      '',
      '',
      () => (themeName.value = themeName.value === 'daylight' ? 'lamplight' : 'daylight'),
      'theme dark light mode settings preferences',
    ),
    one('Keyboard shortcuts', '?', '?', () => (workspace.keysShown = true), 'keys hotkeys settings preferences help'),
  ]
}
