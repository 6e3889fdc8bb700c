import { defineAsyncComponent, type Component } from 'vue'
import type { LinkKind } from '@/core/types'
import MapEditor from './MapEditor.vue'
import PoseEditor from './PoseEditor.vue'

/** How a kind of link is edited, besides what all links have. */
interface Row {
  /** Gets the link, its property and the items it is on; tells of previews and changes of the link. */
  editor?: Component
  /** Gets the same, and tells of texts that are tried and applied. */
  writer?: Component
}

/** The kinds of links on the page: one without a row does not compile. */
export const linkKinds: Record<LinkKind, Row> = {
  follow: {},
  map: { editor: MapEditor },
  pose: { editor: PoseEditor },
  graph: { editor: defineAsyncComponent(() => import('@/components/graph/GraphLink.vue')) },
  formula: { writer: defineAsyncComponent(() => import('@/components/formula/FormulaEditor.vue')) },
}
