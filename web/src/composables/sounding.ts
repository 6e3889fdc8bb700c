import { onBeforeUnmount, watch } from 'vue'
import type { Id } from '@/core/types'
import { api } from '@/net/api'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'

/** How far what is heard may be from the playhead, in seconds, before it is put right. */
const slack = 0.12

/** Plays the sounds of the composition while time runs: each with its volume, those that are hidden not at all. */
export function useSounding(): void {
  const doc = useDocument()
  const playback = usePlayback()
  const players = new Map<Id, HTMLAudioElement>()

  function playerOf(id: Id, asset: string): HTMLAudioElement {
    const url = api.asset(asset)
    let player = players.get(id)
    if (!player) players.set(id, (player = new Audio()))
    if (!player.src.endsWith(url)) {
      player.preload = 'auto'
      player.src = url
    }
    return player
  }

  /** Lets each sound be where the playhead is, or rest. */
  function follow(): void {
    for (const id of doc.ofKind('sound')) {
      const item = doc.items.get(id)
      const spec = doc.spec(id, 'volume')
      if (!item?.sound || !spec) continue
      const player = playerOf(id, item.sound.asset)
      const at = (playback.at() - (item.sound.start ?? 0)) / playback.rate
      if (!playback.playing || playback.speed < 0 || doc.hidden.has(id) || at < 0 || at >= item.sound.seconds) {
        player.pause()
        continue
      }
      player.volume = Math.min(1, Math.max(0, (doc.numbers(id, spec)[0] ?? 100) / 100))
      player.playbackRate = playback.speed
      if (player.paused || Math.abs(player.currentTime - at) > slack) player.currentTime = at
      if (player.paused) void player.play().catch(() => undefined) // a browser that plays nothing yet does so after the first press
    }
    for (const [id, player] of players)
      if (!doc.items.get(id)?.sound) {
        player.pause()
        players.delete(id)
      }
  }
  watch([() => playback.frame, () => playback.playing, () => doc.layout, () => doc.hidden], follow)
  onBeforeUnmount(() => players.forEach((p) => p.pause()))
}
