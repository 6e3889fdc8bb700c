import { useVueFlow } from '@vue-flow/core'
import { watchDebounced } from '@vueuse/core'
import { computed } from 'vue'
import { useWorkspace, type Corner } from '@/stores/workspace'

/** Keeps the small picture over a raised sheet where no slip lies: in the corner that it was put in, or in one that is free. */
export function usePicture(): void {
  const workspace = useWorkspace()
  const { nodes, viewport, dimensions } = useVueFlow('sheet')
  const margin = 8

  /** What a corner has of the sheet. */
  function taken(corner: Corner): boolean {
    const { width, height } = dimensions.value
    const [w, h] = [workspace.pictureWidth + margin, workspace.pictureHeight + margin]
    const left = corner.endsWith('left') ? 0 : width - w
    const top = corner.startsWith('top') ? 0 : height - h
    const { x, y, zoom } = viewport.value
    return nodes.value.some((n) => {
      const l = n.position.x * zoom + x
      const t = n.position.y * zoom + y
      const [r, b] = [l + (n.dimensions.width || 190) * zoom, t + (n.dimensions.height || 110) * zoom]
      return l < left + w && left < r && t < top + h && top < b
    })
  }
  const seen = computed(() => [viewport.value.x, viewport.value.y, viewport.value.zoom, dimensions.value.width, dimensions.value.height])
  watchDebounced(
    [seen, nodes, () => workspace.pulled, () => workspace.pictureWanted, () => workspace.pictureWidth],
    () => {
      if (!workspace.pulled) return
      const free = [workspace.pictureWanted, ...workspace.corners].find((c) => !taken(c))
      workspace.pictureCorner = free ?? workspace.pictureWanted
    },
    { debounce: 150, immediate: true },
  )
}
