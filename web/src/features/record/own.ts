import type { RecordLearnt } from '../../api/client'
import type { useSession } from '../../session/session'

type Format = ReturnType<typeof useSession>['format']
type Estimate = RecordLearnt['estimates'][number]

/** What own floors show, in words. */
export const whatWords: Record<Estimate['what'], string> = {
  pace: 'time on the floor',
  mixing: 'time with the mixer',
  consumed: 'material poured',
  lost: 'material lost in pails',
  lived: 'a pail went hot after',
  joined: 'edges joined without a defect after',
  casting: 'time to broadcast',
  loss: 'loss, by films and weights',
  covered: 'covered',
}

/** What an estimate rests on. */
const casesOf: Record<Estimate['what'], [one: string, many: string]> = {
  pace: ['section', 'sections'],
  mixing: ['pail', 'pails'],
  consumed: ['coat', 'coats'],
  lost: ['coat', 'coats'],
  lived: ['pail', 'pails'],
  joined: ['section', 'sections'],
  casting: ['timing', 'timings'],
  loss: ['section', 'sections'],
  covered: ['section', 'sections'],
}
export const restsOn = (e: Estimate): string =>
  `${e.cases} ${casesOf[e.what][e.cases === 1 ? 0 : 1]} on ${e.jobs === 1 ? '1 job' : `${e.jobs} jobs`}`

const PERCENT = 100
const percent = (v: number): string => `${(v * PERCENT).toFixed(v < 0.1 ? 1 : 0)} %`

const SHARES: Partial<Record<Estimate['what'], string>> = {
  lost: '',
  loss: '',
  lived: ' of its pot life',
  joined: ' of the working time',
}

/** An estimate with its range, and where the newest jobs stand. */
export function estimateWords(e: Estimate, format: Format): string {
  const share = SHARES[e.what]
  const told = (v: number): string =>
    e.what === 'covered' ? format('spread', v) : share !== undefined ? percent(v) : `${v.toFixed(2)} ×`
  const of = e.what === 'covered' ? '' : (share ?? ' as planned')
  const range = e.jobs > 1 ? `, ${told(e.low)} to ${told(e.high)}` : ''
  return `${told(e.value)}${of}${range}${e.recent ? `; the newest three ${told(e.recent)}` : ''}`
}
