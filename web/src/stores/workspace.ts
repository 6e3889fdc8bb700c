import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

/** How the screen is arranged; remembered by the browser. */
export const useWorkspace = defineStore('workspace', () => {
  const itemsWidth = useLocalStorage('wunderkammer:items', 232)
  const cardWidth = useLocalStorage('wunderkammer:card', 312)
  const deskHeight = useLocalStorage('wunderkammer:desk', 300)
  const columns = computed(() => ({
    '--items-width': itemsWidth.value + 'px',
    '--card-width': cardWidth.value + 'px',
    '--desk-height': deskHeight.value + 'px',
  }))
  const keysShown = ref(false)
  /** Whether the form of a new control is open. */
  const addingControl = ref(false)
  /** The control whose form is open, as "item/control". */
  const editingControl = ref<string | null>(null)
  return { itemsWidth, cardWidth, deskHeight, columns, keysShown, addingControl, editingControl }
})
