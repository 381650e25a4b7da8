import type { Clock } from '../api/client'
import { useSession } from '../session/session'

type Form = 'date' | 'day' | 'clock' | 'minute'

/** How each face of the clock writes an hour with its minute. */
const faces: Record<Clock, Intl.DateTimeFormatOptions> = {
  24: { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' },
  12: { hour: 'numeric', minute: '2-digit', hourCycle: 'h12' },
}
const date = { weekday: 'short', day: 'numeric', month: 'short' } as const
function partsOf(form: Form, face: Clock): Intl.DateTimeFormatOptions {
  const minute = faces[face]
  const forms = { date, day: { ...date, ...minute }, clock: { weekday: 'short', ...minute }, minute } as const
  return forms[form]
}
const formats = new Map<string, Intl.DateTimeFormat>()

/** A time as the clock of a place shows it; the reader's own where none is named. */
function told(form: Form, at: string | number, zone?: string): string {
  const face = useSession().clock
  const key = `${form} ${face} ${zone ?? ''}`
  let format = formats.get(key)
  if (!format) {
    format = new Intl.DateTimeFormat(undefined, { ...partsOf(form, face), timeZone: zone || undefined })
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

/** A day with its part, as people say it: "Wed, 2 Dec, morning". */
export function spokenDay(at: string, zone?: string): string {
  const hour = Number(
    new Intl.DateTimeFormat('en', { hour: 'numeric', hourCycle: 'h23', timeZone: zone || undefined }).format(
      new Date(at),
    ),
  )
  const parts: [number, string][] = [
    [5, 'night'],
    [12, 'morning'],
    [18, 'afternoon'],
    [24, 'evening'],
  ]
  return `${dateOnly(at, zone)}, ${parts.find(([until]) => hour < until)?.[1] ?? ''}`
}

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

/** When something comes due, as a crew says it: since when, in how long, or at what time. */
export function dueTime(at: string, now: number, zone?: string): string {
  const HOURS = 3600
  const HALF_DAY = 12 * HOURS
  const MILLIS = 1000
  const seconds = (new Date(at).getTime() - now) / MILLIS
  const near = Math.abs(seconds) < HALF_DAY ? minuteTime(at, zone) : dayTime(at, zone)
  if (seconds <= 0) return `since ${near}`
  if (seconds < HOURS) return `in ${leftTime(seconds)}`
  return seconds < HALF_DAY ? `at ${near}` : near
}
