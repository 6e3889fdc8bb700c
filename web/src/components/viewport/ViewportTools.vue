<script setup lang="ts">
import { computed } from 'vue'
import { useTrying } from '@/composables/trying'
import { useBefore } from '@/stores/before'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import MenuList from '@/components/shared/MenuList.vue'

/** The strip below the picture: how it is seen, and what is drawn over it. */
defineProps<{ zoom: number; free: boolean }>()
defineEmits<{ fit: []; free: [on: boolean]; whole: [] }>()

const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()

/** The one item that is selected, if it has vertices. */
const shapeable = computed(() => {
  const [item] = selection.items
  return selection.items.length === 1 && item && (item.path || doc.kinds.get(item.kind)?.class === 'solid') ? item.id : null
})
const trying = useTrying()
const before = useBefore()
const befores = computed(() => [
  { key: 'keep', label: 'Keep as before' },
  ...(before.list.length
    ? [{ key: 'line', type: 'divider' }, ...before.list.map((b) => ({ key: b.id, label: `Compare with ${b.name}` }))]
    : []),
])
const run = (key: string): void => void (key === 'keep' ? before.keep() : before.compare(key))
const size = computed(() => `${doc.composition?.width ?? 0} × ${doc.composition?.height ?? 0}`)
</script>

<template>
  <div class="tools" role="toolbar" aria-label="Viewport" @pointerdown.stop>
    <span class="figures size">{{ size }}</span>
    <button
      class="plain figures"
      :title="free ? 'Back to where the free view began (F)' : 'Fit the composition into the panel (F)'"
      @click="$emit('fit')"
    >
      {{ free ? 'Reset view' : Math.round(zoom * 100) + ' %' }}
    </button>
    <button v-if="!free" class="plain figures" title="Actual size" @click="$emit('whole')">1:1</button>
    <i />
    <button class="plain" :aria-pressed="free" title="Orbit around the scene without moving its camera" @click="$emit('free', !free)">
      Free view
    </button>
    <button
      class="plain"
      :aria-pressed="workspace.marks"
      title="Show what is drawn over the picture (M)"
      @click="workspace.marks = !workspace.marks"
    >
      Marks
    </button>
    <button class="plain" :aria-pressed="workspace.margins" title="Show safe margins" @click="workspace.margins = !workspace.margins">
      Safe margins
    </button>
    <button
      class="plain"
      :aria-pressed="workspace.paths"
      title="Show motion paths of the selection"
      @click="workspace.paths = !workspace.paths"
    >
      Motion paths
    </button>
    <button
      class="plain"
      :aria-pressed="workspace.pivoting"
      title="Drag the pivot of what is selected (or hold P)"
      @click="workspace.pivoting = !workspace.pivoting"
    >
      Pivot
    </button>
    <button class="plain" :aria-pressed="doc.tried !== null" title="Change anything, then decide whether to keep it" @click="trying.toggle">
      Try out
    </button>
    <MenuList trigger="click" size="small" :options="befores" placement="top-start" @select="run">
      <button class="plain" :aria-pressed="before.comparing" title="Keep how it moves now, and compare with it (hold B)">Before</button>
    </MenuList>
    <button
      v-if="shapeable"
      class="plain"
      :aria-pressed="workspace.shaping === shapeable"
      title="Show the vertices, to drag them"
      @click="workspace.shaping = workspace.shaping === shapeable ? null : shapeable"
    >
      Vertices
    </button>
    <button
      v-if="workspace.shaping"
      class="plain"
      :aria-pressed="workspace.vertexNumbers"
      title="Show the numbers of the vertices"
      @click="workspace.vertexNumbers = !workspace.vertexNumbers"
    >
      Numbers
    </button>
  </div>
</template>

<style scoped>
.tools {
  position: absolute;
  left: 8px;
  bottom: 7px;
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 2px 4px;
  border-radius: 4px;
  background: var(--card);
  color: var(--ink2);
  font-size: 12px;
  white-space: nowrap;
  max-width: calc(100% - 16px);
  overflow: hidden;
}
.size {
  padding: 0 4px;
}
button {
  padding: 0 6px;
  min-height: 24px;
  border-radius: 3px;
}
button:hover {
  background: var(--picked);
  color: var(--ink);
}
/* On: said by a line around it, quieter than what one presses to play. */
button[aria-pressed='true'] {
  color: var(--brassText);
  box-shadow: inset 0 0 0 1px var(--brass);
}
i {
  width: 1px;
  height: 14px;
  background: var(--line);
  margin: 0 3px;
}
</style>
