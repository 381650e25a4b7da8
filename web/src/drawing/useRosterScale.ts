import { computed } from 'vue'
import type { RosterView } from '../api/client'

export const HOUR = 3_600_000
const DAY = 24 * HOUR
/** So much is shown behind the last booking. */
const BEHIND = 3 * DAY
const EDGE = 20

/** Where times lie across the roster: from its first day, or from that of the one job that is shown. */
export function useRosterScale(of: () => { view: RosterView; hour: number; only?: string }) {
  const shown = computed(() => of().view.bookings.filter((b) => !of().only || b.job === of().only))
  const start = computed(() => {
    const all = new Date(of().view.from).getTime()
    if (!of().only || shown.value.length === 0) return all
    const first = Math.min(...shown.value.map((b) => new Date(b.from).getTime()))
    return all + Math.max(0, Math.floor((first - all) / DAY)) * DAY
  })
  const until = computed(() => {
    const last = Math.max(...shown.value.map((b) => new Date(b.until).getTime()), start.value)
    return Math.min(new Date(of().view.until).getTime(), last + BEHIND)
  })
  const width = computed(() => ((until.value - start.value) / HOUR) * of().hour + EDGE)
  const x = (at: string | number | Date): number =>
    ((new Date(at).getTime() - start.value) / HOUR) * of().hour
  const days = computed(() => {
    const all: { at: number; label: string; weekend: boolean }[] = []
    const zone = { timeZone: of().view.zone }
    const day = new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', ...zone })
    const name = new Intl.DateTimeFormat('en', { weekday: 'short', ...zone })
    const clock = new Intl.DateTimeFormat('en', { hour: 'numeric', hourCycle: 'h23', ...zone })
    // A day begins where the clock of the place shows midnight, also where it is changed.
    for (let at = start.value; at < until.value; at += HOUR) {
      if (Number(clock.format(at)) !== 0) continue
      all.push({ at, label: day.format(at), weekend: ['Sat', 'Sun'].includes(name.format(at)) })
    }
    return all
  })
  return { start, until, width, x, days }
}
