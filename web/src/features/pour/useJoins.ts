import { useThrottleFn } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import type { Coat, CoatPlan } from '../../api/client'
import { useDesk } from '../job/useEditor'

export interface Joins {
  /** Somebody placed them; else the plan did. */
  placed: ComputedRef<boolean>
  /** Moves the join after a section so far on, m; its neighbours and their batches follow. */
  shift: (after: number, by: number) => void
  free: () => void
}

const FOLLOW_MS = 40
const LEAST = 0.05

/** The joins between the sections of a coat, as they are moved by hand. */
export function useJoins(coat: ComputedRef<CoatPlan | undefined>): Joins {
  const desk = useDesk()
  function own(label: string, by: (own: NonNullable<Coat['own']>) => void): void {
    const id = coat.value?.id
    desk.editSurface(`${id} ${label}`, (s) => {
      const c = s.coats.find((one) => one.id === id)
      if (!c) return
      const next = { ...c.own }
      by(next)
      c.own = Object.values(next).some((v) => v !== undefined) ? next : undefined
    })
  }
  let owed = new Map<number, number>()
  const follow = useThrottleFn(
    () => {
      const c = coat.value
      const batches = c?.division?.batches ?? []
      const area = (c?.sections ?? []).reduce((sum, s) => sum + s.area, 0)
      if (!c || area === 0) return
      const shares = batches.map((b) => b.volume)
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
      owed = new Map()
      own('joins', (o) => (o.shares = shares))
    },
    FOLLOW_MS,
    true,
  )
  return {
    placed: computed(() => {
      const c = desk.surface.value.coats.find((one) => one.id === coat.value?.id)
      return (c?.own?.shares?.length ?? 0) > 0
    }),
    shift(after, by) {
      owed.set(after, (owed.get(after) ?? 0) + by)
      void follow()
    },
    free: () => own('joins freed', (o) => (o.shares = undefined)),
  }
}
