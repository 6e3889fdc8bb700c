import { h } from 'vue'
import { core } from '@/core/client'
import type { Ref } from '@/core/types'
import { dialog } from './notify'

/** Shows a walk along links, as the core tells it: up to what moves a property, or down to what it drives. */
export async function walk(which: 'why' | 'reach', title: string, from: Ref): Promise<void> {
  const steps = (await core.ask(which, from)).result ?? []
  dialog('info', {
    title,
    positiveText: 'Close',
    closable: false,
    content: () =>
      h(
        'ol',
        { class: 'why' },
        steps.map((s) =>
          h('li', { class: s.dead ? 'dead' : '', style: { marginLeft: `${(s.depth ?? 0) * 16}px` } }, [s.dead ? '✕ ' : '', s.sentence]),
        ),
      ),
  })
}
