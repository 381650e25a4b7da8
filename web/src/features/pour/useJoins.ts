import { useThrottleFn } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import type { Coat, CoatPlan, SurfacePlan } from '../../api/client'
import { useDesk } from '../job/useEditor'

export interface Joins {
  /** Somebody placed them all; else the plan did. */
  placed: ComputedRef<boolean>
  /** Those that stay where they are, by the section before them. */
  pinned: ComputedRef<Set<number>>
  /** Moves the join after a section so far on, m; its neighbours and their batches follow. */
  shift: (after: number, by: number) => void
  /** Keeps the join after a section where it is, or no longer. */
  pin: (after: number) => void
  free: () => void
}

const FOLLOW_MS = 40
const LEAST = 0.05
const SAME = 1e-6

/** How much of a coat is laid up to the end of each batch, 0 to 1. */
function laidBy(volumes: number[]): number[] {
  const whole = volumes.reduce((sum, v) => sum + v, 0)
  let laid = 0
  return volumes.map((v) => (laid += v / whole))
}

/** The joins between the sections of a coat, as they are moved and pinned by hand. */
export function useJoins(
  coat: ComputedRef<CoatPlan | undefined>,
  course: ComputedRef<SurfacePlan['course']>,
): Joins {
  const desk = useDesk()
  const own = computed(() => desk.surface.value.coats.find((c) => c.id === coat.value?.id)?.own)
  const volumes = (): number[] => (coat.value?.division?.batches ?? []).map((b) => b.volume)
  const pinned = computed(() => {
    const pins = own.value?.pinned ?? []
    const at = laidBy(volumes())
    return new Set(at.flatMap((laid, i) => (pins.some((p) => Math.abs(p - laid) < SAME) ? [i + 1] : [])))
  })
  function change(label: string, by: (own: NonNullable<Coat['own']>) => void): void {
    const id = coat.value?.id
    desk.editSurface(`${id} ${label}`, (s) => {
      const c = s.coats.find((one) => one.id === id)
      if (!c) return
      const next = { ...c.own }
      by(next)
      c.own = Object.values(next).some((v) => v !== undefined) ? next : undefined
      if (next.pinned) s.layout.direction ??= course.value?.direction
    })
  }
  function keep(after: Set<number>, laid: number[], label: string): void {
    const pins = laid.filter((_, i) => after.has(i + 1))
    change(label, (o) => {
      o.shares = undefined
      o.pinned = pins.length > 0 ? pins : undefined
    })
  }
  let owed = new Map<number, number>()
  const follow = useThrottleFn(
    () => {
      const c = coat.value
      const area = (c?.sections ?? []).reduce((sum, s) => sum + s.area, 0)
      if (!c || area === 0) return
      const shares = volumes()
      const whole = shares.reduce((sum, v) => sum + v, 0)
      const least = (LEAST * whole) / shares.length
      for (const [after, by] of owed) {
        const cut = c.cuts?.find((one) => one.after === after)
        const to = cut?.with[0]
        if (!cut || to === undefined) continue
        const before = shares[after - 1] ?? 0
        const next = shares[to - 1] ?? 0
        const wanted = (by * cut.wet * whole) / area
        const moved = Math.max(least - before, Math.min(next - least, wanted))
        shares[after - 1] = before + moved
        shares[to - 1] = next - moved
      }
      if (pinned.value.size > 0) {
        keep(new Set([...pinned.value, ...owed.keys()]), laidBy(shares), 'joins')
      } else change('joins', (o) => (o.shares = shares))
      owed = new Map()
    },
    FOLLOW_MS,
    true,
  )
  return {
    placed: computed(() => (own.value?.shares?.length ?? 0) > 0),
    pinned,
    shift(after, by) {
      owed.set(after, (owed.get(after) ?? 0) + by)
      void follow()
    },
    pin(after) {
      const next = new Set(pinned.value)
      if (!next.delete(after)) next.add(after)
      keep(next, laidBy(volumes()), `pin of join ${after}`)
    },
    free() {
      change('joins freed', (o) => {
        o.shares = undefined
        o.pinned = undefined
      })
    },
  }
}
