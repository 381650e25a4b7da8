/** A day and a time by the clock of a place; the reader's own where none is named. */
export function dayTime(at: string, zone?: string): string {
  return new Intl.DateTimeFormat(undefined, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone || undefined,
  }).format(new Date(at))
}

/** Clock times as the reader's own place has them. */
const clock = new Intl.DateTimeFormat(undefined, { weekday: 'short', hour: '2-digit', minute: '2-digit' })
const minute = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' })

export const clockTime = (at: string): string => clock.format(new Date(at))
export const minuteTime = (at: string | number): string => minute.format(new Date(at))

const MINUTES = 60
const two = (n: number): string => String(n).padStart(2, '0')

/** What a local date and time field shows, or nothing. */
export function toField(at: string | undefined): string {
  if (!at) return ''
  const d = new Date(at)
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}T${two(d.getHours())}:${two(d.getMinutes())}`
}

/** What a local date and time field says, with the offset of this place. */
export function fromField(text: string): string | undefined {
  const d = new Date(text)
  if (Number.isNaN(d.getTime())) return undefined
  const off = -d.getTimezoneOffset()
  const whole = Math.abs(off)
  return `${text}:00${off < 0 ? '-' : '+'}${two(Math.floor(whole / MINUTES))}:${two(whole % MINUTES)}`
}

/** Minutes and seconds of a time left. */
export function leftTime(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds))
  return `${Math.floor(whole / MINUTES)}:${two(whole % MINUTES)}`
}
