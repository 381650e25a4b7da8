import type { Card } from '../../api/client'

/** What two cards of equal batches may differ in: whose they are, where and when. */
function sameness(c: Card): string {
  return JSON.stringify({
    ...c,
    batch: 0,
    section: 0,
    area: 0,
    meets: undefined,
    useBy: undefined,
    floor: undefined,
  })
}

/** The cards of a coat by equal batches, each with those that are mixed like it. */
export function equalBatches(cards: Card[]): Card[][] {
  const groups = new Map<string, Card[]>()
  for (const c of cards) {
    const key = sameness(c)
    groups.set(key, [...(groups.get(key) ?? []), c])
  }
  return [...groups.values()]
}

/** Numbers as people list them: 1–3, 5. */
export function ranges(numbers: number[]): string {
  const parts: [number, number][] = []
  for (const n of numbers) {
    const last = parts.at(-1)
    if (last?.[1] === n - 1) last[1] = n
    else parts.push([n, n])
  }
  return parts.map(([from, to]) => (from === to ? `${from}` : `${from}–${to}`)).join(', ')
}
