import { computed } from 'vue'
import type { Bookable, Booked, RosterView } from '../api/client'
import { keyOf } from '../features/roster/useRoster'

export const ROW = 46
export const TOP = 40

/** A booking as it is drawn. */
export interface Ribbon {
  key: string
  task: Bookable
  booked: Booked
  row: number
  y: number
}

/** What lies down the roster: a row for each crew; or for each job, with a lane for what happens in it at the same time. */
export function useRosterRows(of: () => { view: RosterView; by: 'crew' | 'job'; only?: string }) {
  const tasks = computed(() => new Map(of().view.tasks.map((t) => [keyOf(t), t])))
  const laid = computed(() => {
    const { view, by, only } = of()
    // Bookings stand in order of time: a job comes where its first does.
    const first = (job: string): number => {
      const at = view.bookings.findIndex((b) => b.job === job)
      return at < 0 ? Infinity : at
    }
    const named =
      by === 'crew'
        ? view.crews.map((c) => ({ id: c.id, name: c.name, note: c.people > 0 ? `${c.people} people` : '' }))
        : view.jobs
            .filter((j) => !only || j.id === only)
            .toSorted((a, b) => first(a.id) - first(b.id))
            .map((j) => ({ id: j.id, name: j.name, note: j.due ? `due ${j.due}` : '' }))
    const ribbons: Ribbon[] = []
    let top = TOP
    const rows = named.map((row, at) => {
      const ends: number[] = [] // of each lane
      for (const booked of view.bookings) {
        const task = tasks.value.get(keyOf(booked))
        if (!task || (by === 'crew' ? booked.crew : booked.job) !== row.id) continue
        const from = new Date(booked.from).getTime()
        const free = ends.findIndex((end) => end <= from)
        const lane = free < 0 ? ends.length : free
        ends[lane] = new Date(booked.until).getTime()
        ribbons.push({ key: keyOf(booked), task, booked, row: at, y: top + lane * ROW })
      }
      const y = top
      const height = Math.max(1, ends.length) * ROW
      top += height
      return { ...row, y, height }
    })
    return { rows, ribbons, height: top + 6 }
  })
  return {
    rows: computed(() => laid.value.rows),
    ribbons: computed(() => laid.value.ribbons),
    height: computed(() => laid.value.height),
  }
}
