import { ref, watch, type Ref } from 'vue'
import { useDocument } from '@/stores/document'

/** The text that a number of a text property stands for, while it is written; what is written is kept when it is left. */
export function useWords(handle: () => number | undefined, keep: (text: string) => void): { words: Ref<string>; settle: () => void } {
  const doc = useDocument()
  const words = ref('')
  let kept = '' // the text as it was before something was written here
  watch(
    () => doc.texts[handle() ?? 0] ?? '',
    (text) => {
      if (text !== words.value) words.value = kept = text // else it is the preview of what is written here
    },
    { immediate: true },
  )
  function settle(): void {
    if (words.value !== kept) keep((kept = words.value))
  }
  return { words, settle }
}
