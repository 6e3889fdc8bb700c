import { computed } from 'vue'
import type { Id, Offer } from '@/core/types'
import { useDocument } from '@/stores/document'

/** A control that is handed off, as it is listed. */
export interface Listed {
  offer: Offer
  /** What it is called where it is handed off, and by itself; empty: it was deleted. */
  name: string
  from: string
}

/** What the composition hands off, and the ways to say so. */
export function useOffers() {
  const doc = useDocument()
  const offers = computed<Offer[]>(() => doc.composition?.handOff?.offers ?? [])
  const control = (o: Offer) => doc.items.get(o.item)?.controls?.find((c) => c.id === o.control)
  const listed = computed<Listed[]>(() =>
    offers.value.map((offer) => {
      const own = control(offer)
      return {
        offer,
        name: offer.name ?? own?.name ?? 'A deleted control',
        from: own ? `${doc.items.get(offer.item)?.name}: ${own.name}` : '',
      }
    }),
  )
  const of = (item: Id, id: Id): Offer | undefined => offers.value.find((o) => o.item === item && o.control === id)

  /** Says something else of one. */
  const set = (o: Offer, what: Partial<Offer>): Promise<unknown> => doc.gesture('set offer', { value: { ...o, ...what } })
  const move = (o: Offer, at: number): Promise<unknown> => doc.gesture('set offer', { value: o, at })
  const withdraw = (...ids: Id[]): Promise<unknown> => doc.gesture('withdraw', { offers: ids })
  const hand = (item: Id, ids: Id[]): Promise<unknown> => doc.gesture('hand off', { controls: ids.map((property) => ({ item, property })) })
  const note = (text: string): Promise<unknown> => doc.gesture('hand-off note', { note: text })

  return { offers, listed, control, of, set, move, withdraw, hand, note }
}
