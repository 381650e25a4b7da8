import type { Chance, Coat, CrewMember, Pinch } from '../../api/client'

/** How much of a kit is mixed at once. */
export const kitPolicies: Record<NonNullable<NonNullable<Coat['own']>['kits']>, string> = {
  whole: 'whole kits',
  one: 'one kit at a time',
  half: 'half kits',
  third: 'third kits',
  measured: 'measured batches',
}

export const limits: Record<Pinch['limit'], string> = {
  pail: 'pot life in the pail',
  film: 'working time of the film',
  join: 'wet edge of the previous section',
  shift: 'end of the shift',
  light: 'light',
}
export const roles: Record<CrewMember['roles'][number], string> = {
  mixer: 'mixes',
  runner: 'carries',
  pourer: 'pours',
  'cutter-in': 'cuts in',
  spreader: 'spreads',
  roller: 'rolls',
  caster: 'broadcasts',
}
export const causes: Record<Chance['most'][number]['cause'], string> = {
  pace: 'the pace of the day',
  mixing: 'how long mixing takes',
  life: 'how long the mix lives',
  warmth: 'the temperature',
}

const PERCENT = 100
/** Odds as people say them: never 0 or 100 % where a run says otherwise. */
export function percent(of: number): string {
  const p = of * PERCENT
  if (p > 0 && p < 1) return 'under 1 %'
  if (p < PERCENT && p > PERCENT - 1) return 'over 99 %'
  return `${Math.round(p)} %`
}
/** So many of something. */
export function count(n: number, one: string, more: string): string {
  return `${n} ${n === 1 ? one : more}`
}
