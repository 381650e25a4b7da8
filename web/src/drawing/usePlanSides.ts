import { computed, type Ref } from 'vue'
import type { Point } from '../api/client'
import { boxAround, distance, middle, windsLeft, type View } from './figures'
import type { PlanRing } from './plan'

const SHOWN = 160
const LETTER = 6.6

/** How near a hand has to come, in pixels. */
export const NEAR = 12

/** The sides and corners of the rings on a plan, and which of them are worth showing. */
export function usePlanSides(shapes: Ref<PlanRing[]>, view: Ref<View>, width: Ref<number>, height: number) {
  const sides = computed(() =>
    shapes.value.flatMap((ring, r) => {
      const outward = windsLeft(ring.points) ? 1 : -1
      return ring.points.map((a, i) => {
        const b = ring.points[(i + 1) % ring.points.length] ?? a
        const length = distance(a, b)
        return {
          ring: r,
          id: ring.id,
          side: i,
          a,
          b,
          m: middle(a, b),
          length,
          nx: length > 0 ? ((b.y - a.y) / length) * outward : 0,
          ny: length > 0 ? (-(b.x - a.x) / length) * outward : 0,
          edge: ring.edges?.get(i),
          measured: ring.measured,
        }
      })
    }),
  )
  function seen(p: Point): boolean {
    const x = view.value.x(p)
    const y = view.value.y(p)
    return x > -NEAR && x < width.value + NEAR && y > -NEAR && y < height + NEAR
  }
  const shownSides = computed(() => {
    const s = view.value.scale
    return sides.value.filter((side) => side.length * s > 40 && seen(side.m)).slice(0, SHOWN)
  })
  const edges = computed(() => sides.value.filter((s) => s.edge))
  /** Corners that stand far enough apart to be held. */
  const shownCorners = computed(() => {
    const s = view.value.scale
    const all = sides.value.filter((side, i) => {
      const before = sides.value[i - 1]
      const lone = side.length * s > NEAR || (before?.ring === side.ring && before.length * s > NEAR)
      return lone && seen(side.a)
    })
    return all.length > SHOWN ? [] : all
  })
  /** Outlines are named beside their first corner, what lies in them in its middle, or below where that is too small. */
  const names = computed(() =>
    shapes.value.flatMap((r) => {
      const b = boxAround(r.points)
      if (!r.name || !b) return []
      const v = view.value
      const low = { x: b.left, y: b.bottom }
      const m = middle(low, { x: b.right, y: b.top })
      const outside = r.kind === 'outline'
      const tight = (b.right - b.left) * v.scale < r.name.length * LETTER + 12
      const y = outside ? v.y(low) - 12 : tight ? v.y(low) + 20 : v.y(m) + 4
      return [{ id: r.id, kind: r.kind, name: r.name, x: outside ? v.x(low) + 14 : v.x(m), y }]
    }),
  )
  /** Keeps a label of some words, centred on x, inside the drawing. */
  function kept(x: number, words: string): number {
    const half = (words.length * LETTER) / 2 + 3
    return Math.min(width.value - half, Math.max(half, x))
  }
  return { shownSides, edges, shownCorners, names, kept }
}
