import { ref, watch, type Ref } from 'vue'
import { useDocument } from '@/stores/document'

/** The text that a number of a text property stands for, while it is written; what is written is kept when it is left. */
export function useWords(handle: () => number | undefined, keep: (text: string) => void): { words: Ref<string>; settle: () => void } {
  const doc = useDocument()
  const words = ref('')
  const stands = (): string => doc.texts[handle() ?? 0] ?? ''
  let kept = ''
  let writing = false
  watch(
    stands,
    (text) => {
      if (text !== words.value) kept = text // not what is being written here
      words.value = text
      writing = false
    },
    { immediate: true },
  )
  watch(words, (text) => (writing ||= text !== kept))
  function settle(): void {
    if (writing && words.value !== kept) keep((kept = words.value))
    writing = false
  }
  return { words, settle }
}
