import type { RecordLearnt } from '../../api/client'

type Estimate = RecordLearnt['estimates'][number]

/** What own floors show, in words. */
export const whatWords: Record<Estimate['what'], string> = {
  pace: 'time on the floor',
  mixing: 'time with the mixer',
  consumed: 'material poured',
  lost: 'material lost in pails',
  lived: 'a pail went hot after',
}

/** What an estimate rests on. */
const casesOf: Record<Estimate['what'], [one: string, many: string]> = {
  pace: ['section', 'sections'],
  mixing: ['pail', 'pails'],
  consumed: ['coat', 'coats'],
  lost: ['coat', 'coats'],
  lived: ['pail', 'pails'],
}
export const restsOn = (e: Estimate): string =>
  `${e.cases} ${casesOf[e.what][e.cases === 1 ? 0 : 1]} on ${e.jobs === 1 ? '1 job' : `${e.jobs} jobs`}`

const PERCENT = 100
const percent = (v: number): string => `${(v * PERCENT).toFixed(v < 0.1 ? 1 : 0)} %`

/** An estimate with its range. */
export function estimateWords(e: Estimate): string {
  const share = e.what === 'lost' || e.what === 'lived'
  const told = (v: number): string => (share ? percent(v) : `${v.toFixed(2)} ×`)
  const of = e.what === 'lived' ? ' of its pot life' : share ? '' : ' as planned'
  return e.jobs > 1 ? `${told(e.value)}${of}, ${told(e.low)} to ${told(e.high)}` : `${told(e.value)}${of}`
}
