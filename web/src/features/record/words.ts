import type { RecordEvent } from '../../api/client'
import type { Kind } from '../../session/units'

/** What an event tells, in a line. */
export function entryText(e: RecordEvent, format: (kind: Kind, si: number) => string): string {
  const b = e.body
  const parts = [
    e.task?.split('/').slice(2).join(' '),
    b.gate,
    b.saw,
    b.slab === undefined ? '' : `slab ${format('temperature', b.slab)}`,
    b.air === undefined ? '' : `air ${format('temperature', b.air)}`,
    b.humidity === undefined ? '' : `humidity ${format('fraction', b.humidity)}`,
    b.masses?.map((m) => format('mass', m)).join(' + '),
    b.mass === undefined ? '' : format('mass', b.mass),
    b.lots?.filter(Boolean).join(', '),
    b.film === undefined ? '' : format('film', b.film),
    b.seen,
    b.size,
    b.cause,
    b.text,
    b.reason,
  ]
  return parts.filter(Boolean).join(' · ')
}
