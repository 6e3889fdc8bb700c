import { useSelection } from '@/stores/selection'
import { hand } from './hand'
import { useItemCommands } from './itemCommands'
import { usePinCommands } from './pinCommands'

/** Copying and pasting what the hand is at: pins on the Desk, else items. */
export function useClipboard(): { atPins: () => boolean; copy: () => void; paste: () => void } {
  const selection = useSelection()
  const items = useItemCommands()
  const pins = usePinCommands()

  /** Whether the hand is at pins that are picked. */
  const atPins = (): boolean => hand.panel === 'desk' && selection.pins.length > 0
  return {
    atPins,
    copy: () => void (atPins() ? pins.copy() : items.copy()),
    paste: () => void (hand.panel === 'desk' && pins.copied() ? pins.paste() : items.paste()),
  }
}
