import { computed } from 'vue'
import type { Bookable, RosterView } from '../api/client'
import { keyOf, standing, tasksOf, type Standing } from './roster'

export const ROW = 46
export const TOP = 40

/** A booking as it is drawn. */
export interface Ribbon {
  id: string
  key: string
  task: Bookable
  booked: Standing
  row: number
  y: number
}

/** What lies down a roster. */
export type RosterBy = 'crew' | 'job' | 'place' | 'machine'

const machines: Record<NonNullable<Bookable['machines']>[number], string> = {
  grinder: 'Grinder',
  'shot-blaster': 'Shot blaster',
  'screening-machine': 'Screening machine',
  sander: 'Sander',
  vacuum: 'Vacuum',
  'wet-vacuum': 'Wet vacuum',
  'mixer-drill': 'Mixer drill',
}
const NOWHERE = 'No site entered'

/** A row for each crew, job, place or machine, with a lane for what happens in it at the same time. */
export function useRosterRows(of: () => { view: RosterView; by: RosterBy; only?: string }) {
  const sites = computed(() => new Map(of().view.jobs.map((j) => [j.id, j.site ?? NOWHERE])))
  /** The rows that a booking stands in. */
  function rowsOf(by: RosterBy, booked: Standing, task: Bookable): string[] {
    if (by === 'crew') return [booked.crew ?? '']
    if (by === 'job') return [booked.job]
    return by === 'place' ? [sites.value.get(booked.job) ?? NOWHERE] : (task.machines ?? [])
  }
  const tasks = computed(() => tasksOf(of().view))
  const laid = computed(() => {
    const { view, by, only } = of()
    const bookings = standing(view)
    // Bookings stand in order of time: a job comes where its first does.
    const first = (job: string): number => {
      const at = bookings.findIndex((b) => b.job === job)
      return at < 0 ? Infinity : at
    }
    const plain = (names: string[]): { id: string; name: string; note: string }[] =>
      names.map((id) => ({ id, name: machines[id as keyof typeof machines] ?? id, note: '' }))
    const used = new Set(bookings.flatMap((b) => tasks.value.get(keyOf(b))?.machines ?? []))
    const named = {
      place: () => plain([...new Set(sites.value.values())].toSorted()),
      machine: () => plain(Object.keys(machines).filter((m) => used.has(m as keyof typeof machines))),
      crew: () =>
        view.crews.map((c) => ({ id: c.id, name: c.name, note: c.people > 0 ? `${c.people} people` : '' })),
      job: () =>
        view.jobs
          .filter((j) => !only || j.id === only)
          .toSorted((a, b) => first(a.id) - first(b.id))
          .map((j) => ({ id: j.id, name: j.name, note: j.due ? `due ${j.due}` : '' })),
    }[by]()
    const ribbons: Ribbon[] = []
    let top = TOP
    const rows = named.map((row, at) => {
      const ends: number[] = [] // of each lane
      for (const booked of bookings) {
        const task = tasks.value.get(keyOf(booked))
        if (!task || !rowsOf(by, booked, task).includes(row.id)) continue
        const from = new Date(booked.from).getTime()
        const free = ends.findIndex((end) => end <= from)
        const lane = free < 0 ? ends.length : free
        ends[lane] = new Date(booked.until).getTime()
        ribbons.push({
          id: `${row.id} ${keyOf(booked)}`,
          key: keyOf(booked),
          task,
          booked,
          row: at,
          y: top + lane * ROW,
        })
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
