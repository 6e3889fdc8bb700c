import { useLocalStorage } from '@vueuse/core'
import { watchEffect } from 'vue'
import { customProperties, type ThemeName } from '@/theme'

/** Daylight or lamplight; daylight until somebody chooses. */
export const themeName = useLocalStorage<ThemeName>('wunderkammer:theme', 'daylight')

/** Writes the palette onto the page whenever the theme changes. */
export function applyTheme(): void {
  watchEffect(() => {
    const root = document.documentElement
    root.dataset.theme = themeName.value
    root.style.colorScheme = themeName.value === 'daylight' ? 'light' : 'dark'
    for (const [name, value] of Object.entries(customProperties(themeName.value))) root.style.setProperty(name, value)
  })
}
