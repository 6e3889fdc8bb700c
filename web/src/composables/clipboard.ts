import { useSelection } from '@/stores/selection'
import { atTracks } from './hand'
import { useItemCommands } from './itemCommands'
import { usePinCommands } from './pinCommands'

/** Copying and pasting what the hand is at: pins on the Desk and in Curves, else items. */
export function useClipboard(): { atPins: () => boolean; copy: () => void; paste: () => void } {
  const selection = useSelection()
  const items = useItemCommands()
  const pins = usePinCommands()

  /** Whether the hand is at pins that are picked. */
  const atPins = (): boolean => atTracks() && selection.pins.length > 0
  return {
    atPins,
    copy: () => void (atPins() ? pins.copy() : items.copy()),
    paste: () => void (atTracks() && pins.copied() ? pins.paste() : items.paste()),
  }
}
