<script setup lang="ts">
import { dragging } from '@/composables/drag'
import { useWorkspace, type Corner } from '@/stores/workspace'

/** The frame of the small picture over a raised sheet: by its strip it goes to another corner, by its edge it is made larger or smaller. */
const workspace = useWorkspace()
const names: Record<Corner, string> = {
  'bottom right': 'lower right',
  'bottom left': 'lower left',
  'top right': 'upper right',
  'top left': 'upper left',
}

function put(corner: Corner): void {
  workspace.pictureWanted = workspace.pictureCorner = corner
}
function move(event: PointerEvent): void {
  const box = (event.currentTarget as HTMLElement).closest('.studio')?.querySelector('.desk')?.getBoundingClientRect()
  dragging(event, (_dx, _dy, e) => {
    if (!box) return
    const side = e.clientX < box.left + box.width / 2 ? 'left' : 'right'
    put(`${e.clientY < box.top + box.height / 2 ? 'top' : 'bottom'} ${side}`)
  })
}
function size(event: PointerEvent): void {
  const was = workspace.pictureWidth
  const way = workspace.pictureCorner.endsWith('right') ? -1 : 1
  dragging(event, (dx) => (workspace.pictureWidth = was + way * dx))
}
/** By keyboard: arrows put it into another corner, + and - size it. */
function keys(event: KeyboardEvent): void {
  const [down, side] = workspace.pictureCorner.split(' ') as ['top' | 'bottom', 'left' | 'right']
  const acts: Record<string, () => void> = {
    ArrowUp: () => put(`top ${side}`),
    ArrowDown: () => put(`bottom ${side}`),
    ArrowLeft: () => put(`${down} left`),
    ArrowRight: () => put(`${down} right`),
    '+': () => (workspace.pictureWidth += 40),
    '-': () => (workspace.pictureWidth -= 40),
  }
  if (!acts[event.key]) return
  event.preventDefault()
  event.stopPropagation()
  acts[event.key]?.()
}
</script>

<template>
  <div class="frame" :class="workspace.pictureCorner.split(' ')">
    <button
      class="plain strip"
      :aria-label="`Small picture, ${names[workspace.pictureCorner]}: arrows move it to another corner, + and − size it`"
      title="Drag to another corner"
      @pointerdown="move"
      @keydown="keys"
    />
    <span class="edge" title="Drag to size" @pointerdown="size" />
  </div>
</template>

<style scoped>
.frame {
  position: relative;
  width: var(--picture-width);
  height: var(--picture-height);
  pointer-events: none;
}
.strip,
.edge {
  position: absolute;
  pointer-events: auto;
}
.strip {
  inset: 0 0 auto;
  height: 14px;
  cursor: move;
  background: var(--picked);
  border: 1px solid var(--line);
}
.edge {
  top: 14px;
  bottom: 0;
  width: 8px;
  cursor: ew-resize;
}
.right .edge {
  left: -4px;
}
.left .edge {
  right: -4px;
}
</style>
