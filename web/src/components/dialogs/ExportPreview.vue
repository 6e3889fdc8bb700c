<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import { useExportForm } from '@/composables/exportForm'
import { fromBase64 } from '@/core/base64'
import { core } from '@/core/client'
import type { Project } from '@/core/types'
import type { Export } from '@/export/asked'
import type { Pictures } from '@/export/pictures'
import { useDocument } from '@/stores/document'

/** The first picture of what is to be exported, as it will be: with its background or without, smeared or not. */
const props = defineProps<{ width: number; height: number }>()
const doc = useDocument()
const { asked } = useExportForm()
const canvas = useTemplateRef('canvas')
/** What is shapes, as a picture of shapes. */
const shapes = ref('')
const wrong = ref('')
const ready = ref(false)
let pictures: Pictures | null = null
let how = ''
let wanted = 0

/** The frame as SVG, with its pictures. */
async function drawing({ name: _, format: __, ...asked }: Export): Promise<string> {
  const [{ result }, { embedded }] = await Promise.all([
    core.ask('write', { begin: { ...asked, loop: 0, clear: false, format: 'svg' } }),
    import('@/export/embedding'),
  ])
  return new TextDecoder().decode(await embedded(fromBase64(result?.file ?? '')))
}

async function draw(): Promise<void> {
  const mine = ++wanted
  const one = asked.value
  if (one?.format.flat) {
    const text = await drawing(one)
    if (mine === wanted && text) shapes.value = `data:image/svg+xml,${encodeURIComponent(text)}`
    return
  }
  shapes.value = ''
  const project = (await core.ask('project', null)).result as Project | undefined
  if (mine !== wanted || !one || !project || !canvas.value) return
  const scale = Math.min(props.width / one.width, props.height / one.height) * devicePixelRatio
  const [width, height] = [Math.max(1, Math.round(one.width * scale)), Math.max(1, Math.round(one.height * scale))]
  const { composition, clear, blur } = one
  const now = JSON.stringify([composition, width, height, clear, blur])
  try {
    if (now !== how) {
      pictures?.close()
      how = ''
      pictures = null
      const { Pictures: Drawn } = await import('@/export/pictures')
      const opened = await Drawn.open({ project, composition, width, height, clear, blur }, doc.catalogue)
      if (mine !== wanted) return opened.close()
      pictures = opened
      how = now
    }
    if (!pictures) return
    await pictures.draw(one.from)
    if (mine !== wanted) return
    Object.assign(canvas.value, { width, height })
    canvas.value.getContext('2d')?.drawImage(pictures.canvas, 0, 0)
    wrong.value = ''
    ready.value = true
  } catch (error) {
    if (mine === wanted) wrong.value = error instanceof Error ? error.message : String(error)
  }
}

let soon = 0
watch(asked, () => {
  clearTimeout(soon)
  soon = window.setTimeout(() => void draw(), 120)
})
onMounted(draw)
onBeforeUnmount(() => {
  wanted++
  clearTimeout(soon)
  pictures?.stop()
  pictures?.close()
})
</script>

<template>
  <div class="preview" :style="{ width: width + 'px', height: height + 'px' }">
    <img v-if="shapes" :src="shapes" :alt="`Frame ${asked?.from ?? 0} as it will be exported`" />
    <canvas v-show="ready && !wrong && !shapes" ref="canvas" role="img" :aria-label="`Frame ${asked?.from ?? 0} as it will be exported`" />
    <p v-if="wrong && !shapes" class="quiet">No preview: {{ wrong }}</p>
  </div>
</template>

<style scoped>
.preview {
  display: grid;
  place-items: center;
  background: var(--wall);
  border-radius: 4px;
  overflow: hidden;
  max-width: 100%;
}
canvas,
img {
  max-width: 100%;
  max-height: 100%;
  background: repeating-conic-gradient(#b9b4a8 0 25%, #d9d4c8 0 50%) 0 0 / 16px 16px;
}
p {
  padding: 12px;
  margin: 0;
}
</style>
