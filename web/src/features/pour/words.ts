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
