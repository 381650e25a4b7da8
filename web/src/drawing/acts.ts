import type { Stint } from '../api/client'

/** What people do in a pour, as words of a ribbon. */
export const acts: Record<Stint['act'], string> = {
  fetch: 'back for the next',
  open: 'opens the pails',
  mix: 'mixes',
  carry: 'carries',
  pour: 'pours',
  'cut-in': 'cuts in',
  spread: 'spreads',
  roll: 'rolls',
  'cross-roll': 'cross-rolls the joint',
  broadcast: 'broadcasts',
}
