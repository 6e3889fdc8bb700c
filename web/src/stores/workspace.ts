import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Command } from '@/composables/commands'
import type { Clip, SavedSlot, Id, Ref } from '@/core/types'

/** A corner of the raised sheet. */
export type Corner = `${'top' | 'bottom'} ${'left' | 'right'}`
const corners: Corner[] = ['bottom right', 'bottom left', 'top right', 'top left']

/** How the screen is arranged; remembered by the browser. */
export const useWorkspace = defineStore('workspace', () => {
  const itemsWidth = useLocalStorage('wunderkammer:items', 232)
  const cardWidth = useLocalStorage('wunderkammer:card', 312)
  const deskHeight = useLocalStorage('wunderkammer:desk', 300)
  /** How wide the small picture over a raised sheet is, in which corner it is wanted, and in which it is, so that it lies over no slip. */
  const pictureWide = useLocalStorage('wunderkammer:picture', 232)
  const pictureWidth = computed({ get: () => pictureWide.value, set: (w: number) => (pictureWide.value = Math.min(640, Math.max(140, w))) })
  const pictureHeight = computed(() => Math.round(pictureWidth.value * 0.62))
  const pictureWanted = useLocalStorage<Corner>('wunderkammer:picture-corner', 'bottom right')
  const pictureCorner = ref<Corner>(pictureWanted.value)
  const columns = computed(() => ({
    '--items-width': itemsWidth.value + 'px',
    '--card-width': cardWidth.value + 'px',
    '--picture-width': pictureWidth.value + 'px',
    '--picture-height': pictureHeight.value + 'px',
    '--desk-height': performing.value && tab.value === 'desk' ? '55%' : deskHeight.value + 'px',
  }))
  /** How much of the Desk its rows take; the rest is for tracks. */
  const deskShare = useLocalStorage('wunderkammer:desk-share', 0.36)
  /** Whether the Desk is a tall panel to perform on: no tracks, rows that are easily hit. */
  const performing = ref(false)
  const keysShown = ref(false)
  /** All commands of the studio, while it is open. */
  const commands = shallowRef<Command[]>([])
  /** Whether the search over everything is open. */
  const searching = ref(false)
  /** Whether single letters and digits are shortcuts. */
  const letterKeys = useLocalStorage('wunderkammer:letter-keys', true)
  /** Whether the list of what can be added is open. */
  const adding = ref(false)
  /** Whether the form of a new control is open. */
  const addingControl = ref(false)
  /** The control whose form is open, as "item/control". */
  const editingControl = ref<string | null>(null)
  /** What is drawn over the picture. */
  const margins = useLocalStorage('wunderkammer:margins', false)
  const marks = useLocalStorage('wunderkammer:marks', true)
  const paths = useLocalStorage('wunderkammer:paths', true)
  const vertexNumbers = useLocalStorage('wunderkammer:vertex-numbers', true)
  /** The item whose vertices are shown to be edited. */
  const shaping = ref<Id | null>(null)
  /** Whether the way from the pin that is picked to the next is opened under its track. */
  const spanOpen = useLocalStorage('wunderkammer:span', false)
  /** Whether the pivot of what is selected can be dragged: by its tool, or while its key is held. */
  const pivoting = ref(false)
  /** What of the viewport keys can reach: set by the viewport while it is there. */
  const viewport = ref<{
    fit: () => void
    remove: () => boolean
    nudge: (x: number, y: number) => void
    under: (x: number, y: number) => Id | undefined
    spots: (ids: Id[]) => ([x: number, y: number] | null)[]
  } | null>(null)
  /** What of the tree and the Card keys can reach: a row of them, unfolded, with the keys; the tree as it is. */
  const tree = shallowRef<{ reach: (id: Id) => Promise<void>; focus: () => void } | null>(null)
  const card = shallowRef<{ reach: (key: string) => Promise<void> } | null>(null)
  /** What the lower panel shows. */
  const tab = ref<'desk' | 'curves' | 'ledger' | 'graph'>('desk')
  /** Whether the sheet of a graph stands in the place of the viewport, which is a small picture in its corner then. */
  const pulledUp = ref(false)
  const pulled = computed(() => pulledUp.value && tab.value === 'graph')
  /** What is sought in the Ledger. */
  const sought = ref('')
  /** Whether the cables of the picked control are drawn whole: while their key is held. */
  const cables = ref(false)
  /** The item whose drawing in the viewport the pointer is over. */
  const hovering = ref<Id | null>(null)
  /** What is to be pasted once it is chosen what takes the places of items that are not here. */
  const pasting = shallowRef<{ clip: Clip; asks: SavedSlot[] } | null>(null)
  /** The properties whose limits are being set. */
  const limiting = ref<Ref[] | null>(null)
  /** Whether time is being put in or taken out at the playhead, and of which drawer it was asked for. */
  const timing = ref<{ item?: Id } | null>(null)
  /** Whether it is asked what the composition is to be exported as. */
  const exporting = ref(false)
  /** Whether it is chosen what the composition hands off. */
  const handingOff = ref(false)
  /** The properties whose baking is being asked about. */
  const baking = ref<Ref[] | null>(null)
  /** The recipe whose form is open; empty for the first of the list. */
  const recipe = ref<string | null>(null)
  /** Whether the rehearsal is open. */
  const rehearsing = ref(false)
  /** The control of poses whose stops, and what they move, stand over the lower panel. */
  const posesOf = ref<{ item: Id; control: Id } | null>(null)
  /** The link whose formula is open wide over the lower panel. */
  const wide = ref<Id | null>(null)
  /** Formulas that were written lately, the latest last. */
  const formulas = useLocalStorage<string[]>('wunderkammer:formulas', [])
  const remember = (text: string): void => {
    if (text.trim()) formulas.value = [...formulas.value.filter((f) => f !== text), text].slice(-40)
  }
  return {
    itemsWidth,
    cardWidth,
    deskHeight,
    columns,
    deskShare,
    performing,
    keysShown,
    commands,
    searching,
    letterKeys,
    adding,
    addingControl,
    editingControl,
    margins,
    paths,
    marks,
    vertexNumbers,
    shaping,
    pivoting,
    spanOpen,
    viewport,
    card,
    tree,
    tab,
    pulledUp,
    corners,
    pictureWidth,
    pictureHeight,
    pictureWanted,
    pictureCorner,
    pulled,
    sought,
    cables,
    wide,
    posesOf,
    recipe,
    rehearsing,
    formulas,
    remember,
    limiting,
    pasting,
    hovering,
    baking,
    exporting,
    handingOff,
    timing,
  }
})
