import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { AtStop } from '@/core/types'

/** The stop of a control of poses that everything changed belongs to, while one is posed. */
export const usePosingStop = defineStore('posing', () => {
  const at = ref<AtStop | null>(null)
  return { at }
})
