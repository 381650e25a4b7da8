type Form = 'date' | 'day' | 'clock' | 'minute'

/** Sentences of the server, cards and files name 24 hours; so does every time beside them. */
const minute = { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' } as const
const forms: Record<Form, Intl.DateTimeFormatOptions> = {
  date: { weekday: 'short', day: 'numeric', month: 'short' },
  day: { weekday: 'short', day: 'numeric', month: 'short', ...minute },
  clock: { weekday: 'short', ...minute },
  minute,
}
const formats = new Map<string, Intl.DateTimeFormat>()

/** A time as the clock of a place shows it; the reader's own where none is named. */
function told(form: Form, at: string | number, zone?: string): string {
  const key = `${form} ${zone ?? ''}`
  let format = formats.get(key)
  if (!format) {
    format = new Intl.DateTimeFormat(undefined, { ...forms[form], timeZone: zone || undefined })
    formats.set(key, format)
  }
  return format.format(new Date(at))
}
export const dateOnly = (at: string, zone?: string): string => told('date', at, zone)
export const dayTime = (at: string, zone?: string): string => told('day', at, zone)
export const clockTime = (at: string, zone?: string): string => told('clock', at, zone)
const DAYS_TOLD_APART = 6 * 86_400_000
/** A time near another: by its weekday as long as that names one day only, else with the date. */
export const nearTime = (at: string, from: string | undefined, zone?: string): string =>
  from && Math.abs(new Date(at).getTime() - new Date(from).getTime()) < DAYS_TOLD_APART
    ? clockTime(at, zone)
    : dayTime(at, zone)
export const minuteTime = (at: string | number, zone?: string): string => told('minute', at, zone)

/** The time zone that this device is in. */
export const ownZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone

const LOCAL_LENGTH = 16

/** What a local date and time field shows of a time by the clock on site. */
export function toField(local: string | undefined): string {
  return (local ?? '').slice(0, LOCAL_LENGTH)
}

const MINUTES = 60
const two = (n: number): string => String(n).padStart(2, '0')

/** Minutes and seconds of a time left. */
export function leftTime(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds))
  return `${Math.floor(whole / MINUTES)}:${two(whole % MINUTES)}`
}
