import { computed } from 'vue'
import type { PriceOffer } from '../../api/client'
import { useShelf } from './store'

type Pack = Pick<PriceOffer, 'sheet' | 'hardener' | 'medium' | 'name' | 'version'>

/** The packs of the shelf, as one of them is chosen from a list. */
export function usePacks() {
  const shelf = useShelf()
  void shelf.load()
  const key = (p: Pack): string => JSON.stringify([p.sheet, p.hardener ?? '', p.medium ?? false, p.name])
  const all = computed(() => {
    const packs = new Map<string, { pack: Pack; words: string; price?: number }>()
    const put = (pack: Pack, words: string, price?: number): void =>
      void packs.set(key(pack), { pack, words, price })
    for (const { sheet: p } of shelf.lines) {
      const version = p.version ?? 0
      for (const k of p.kits)
        if (!k.gone) put({ sheet: p.id, name: k.name, version }, `${p.name}, ${k.name}`, k.price)
      for (const h of p.hardeners ?? [])
        for (const k of h.kits ?? [])
          put(
            { sheet: p.id, hardener: h.id, name: k.name, version },
            `${p.name}, ${h.name}, ${k.name}`,
            k.price,
          )
    }
    for (const m of shelf.media)
      for (const k of m.packs)
        put(
          { sheet: m.id, medium: true, name: k.name, version: m.version ?? 0 },
          `${m.name}, ${k.name}`,
          k.price,
        )
    return packs
  })
  const options = computed(() => [...all.value].map(([k, v]): [string, string] => [k, v.words]))
  const find = (chosen: string | undefined): Pack | undefined => all.value.get(chosen ?? '')?.pack
  /** A pack in words; one that is not on the shelf yet by its product. */
  function words(p: Pack | undefined): string {
    if (!p) return ''
    const product = [...shelf.lines.map((l) => l.sheet), ...shelf.media].find((s) => s.id === p.sheet)
    return all.value.get(key(p))?.words ?? `${product?.name ?? p.sheet}, ${p.name}`
  }
  const price = (chosen: string | undefined): number | undefined => all.value.get(chosen ?? '')?.price
  return { options, find, price, words }
}
