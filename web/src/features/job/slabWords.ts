import type { Plan, Source } from '../../api/client'
import { dayTime } from '../../fields/clock'
import { sourceWords } from '../../fields/sources'

/** What the temperature of the slab that a job is planned for rests on, and since when. */
export function slabWords(plan: Plan, entered?: Source): string {
  const from = plan.slab
  if (from.basis === 'entered') return entered ? sourceWords[entered] : 'entered'
  if (from.basis === 'assumed' || !from.at) return 'assumed'
  return `read ${from.on ? `on ${from.on}` : 'on the job day'}, ${dayTime(from.at, plan.zone)}`
}
