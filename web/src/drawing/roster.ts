import type { Bookable, Booked, RosterView } from '../api/client'

export const keyOf = (of: { job: string; task?: string; id?: string }): string =>
  `${of.job}/${of.task ?? of.id ?? ''}`

/** A booking as it is shown: a pour that was logged stands where it was, not where it was booked. */
export interface Standing extends Booked {
  logged?: 'done' | 'under way'
  /** The pails of a pour are made ready then; it is moved with the pour. */
  readies?: true
}
/** The tasks of a roster by their keys, also those in which pails are made ready. */
export function tasksOf(view: RosterView): Map<string, Bookable> {
  const all = new Map(view.tasks.map((t) => [keyOf(t), t]))
  for (const b of view.bookings) {
    const pour = all.get(keyOf(b))
    if (!pour) continue
    for (const own of readies(b)) {
      const minutes = (new Date(own.until).getTime() - new Date(own.from).getTime()) / 60_000
      const { job, surface } = pour
      const name = own.title ?? ''
      all.set(keyOf(own), { job, id: own.task, name, surface, kind: 'prepare', people: 1, minutes })
    }
  }
  return all
}
/** When the pails of a booking's pours are made ready. */
function readies(b: Booked): Standing[] {
  return (b.pours ?? []).flatMap((p, n): Standing[] =>
    p.ready?.name
      ? [
          {
            job: b.job,
            task: `${b.task}/ready/${n}`,
            crew: b.crew,
            title: p.ready.name,
            from: p.ready.from,
            until: p.ready.until,
            readies: true,
          },
        ]
      : [],
  )
}
export function standing(view: RosterView): Standing[] {
  const lain = new Map(view.lain.map((l) => [keyOf(l), l]))
  const booked = view.bookings.map((b): Standing => {
    const l = lain.get(keyOf(b))
    lain.delete(keyOf(b))
    return l ? { ...b, from: l.from, until: l.until, logged: l.open ? 'under way' : 'done' } : b
  })
  // What was laid without a booking has no crew, but a job and a place.
  const free = [...lain.values()].map(({ job, task, from, until, open }): Standing => ({
    job,
    task,
    from,
    until,
    logged: open ? 'under way' : 'done',
  }))
  return [...free, ...booked, ...view.bookings.flatMap(readies)].toSorted((a, b) =>
    a.from.localeCompare(b.from),
  )
}
