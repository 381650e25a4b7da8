import type { Coat, Medium, Product, SheetFact } from '../../api/client'
import type { ReadKind } from '../../fields/useReader'
import type { Kind } from '../../session/units'

/** What a product is for, in the order in which coats go on. */
export const kindWords: Record<Product['kind'], string> = {
  'moisture-barrier': 'moisture barrier',
  primer: 'primer',
  body: 'body coat',
  metallic: 'metallic',
  grout: 'grout coat',
  clear: 'clear coat',
  urethane: 'urethane topcoat',
  polyaspartic: 'polyaspartic',
  paint: 'floor paint',
  'pool-paint': 'pool paint',
  flood: 'flood coat',
  'deep-pour': 'deep pour',
  binder: 'stone binder',
}

export const chemistryWords: Record<Product['chemistry'], string> = {
  epoxy: 'epoxy',
  novolac: 'novolac epoxy',
  polyurethane: 'polyurethane',
  polyaspartic: 'polyaspartic',
  acrylic: 'acrylic',
  polyester: 'polyester',
  alkyd: 'alkyd',
}

export const carrierWords = { none: '100 % solids', water: 'water-borne', solvent: 'solvent-borne' }

export const mediumWords: Record<Medium['kind'], string> = {
  flake: 'flake',
  quartz: 'quartz',
  grit: 'grit',
  bead: 'bead',
  pebble: 'pebble',
  pigment: 'pigment',
  filler: 'filler',
  thinner: 'thinner',
  tool: 'tool or consumable',
  supply: 'preparation material',
}

/** What a preparation material is counted in. */
export const unitWords: Record<NonNullable<Medium['unit']>, string> = {
  count: 'pieces',
  mass: 'mass',
  volume: 'volume',
  length: 'length',
  area: 'area',
}

/** How an amount is stated, and the kind of quantity that it then is. */
export const amountWords: Record<Coat['amount']['basis'], { words: string; kind: ReadKind }> = {
  'wet-film': { words: 'wet film', kind: 'film' },
  'dry-film': { words: 'dry film', kind: 'film' },
  spread: { words: 'spread rate', kind: 'spread' },
  'mass-per-area': { words: 'mass per area', kind: 'coverage' },
  notch: { words: 'notch or pin depth', kind: 'film' },
  'area-per-kit': { words: 'area per kit', kind: 'area' },
  'by-stone': { words: 'share of the stones wetted in it', kind: 'fraction' },
}

/** What is in a spread, mass per area or area per kit. */
export const figureWords: Record<NonNullable<Coat['amount']['figure']>, string> = {
  practical: 'practical',
  theoretical: 'theoretical',
}

/** Whether an amount of a basis is practical or theoretical; films are always theoretical. */
export function takesFigure(basis: Coat['amount']['basis']): boolean {
  return ['spread', 'mass-per-area', 'area-per-kit'].includes(basis)
}

/** Whether loss, profile, absorption, residue and edges are in an amount. */
export function isPractical({ basis, figure }: Coat['amount']): boolean {
  return figure ? figure === 'practical' : basis === 'spread' || basis === 'area-per-kit'
}

/** What a tool or consumable is reckoned by. */
export const perWords: Record<NonNullable<Medium['use']>['per'], string> = {
  area: 'm² of surface',
  'ground-area': 'm² ground',
  'coat-area': 'm² of coats',
  perimeter: 'm of wall',
  doors: 'm of doorway',
  person: 'person',
  batch: 'batch',
  coat: 'coat',
  job: 'job',
}

/** Groups things by a word of theirs, in the order of a table of words. */
export function grouped<T>(
  things: T[],
  words: Record<string, string>,
  of: (thing: T) => string,
): { name: string; things: T[] }[] {
  return Object.entries(words)
    .map(([key, name]) => ({ name, things: things.filter((t) => of(t) === key) }))
    .filter((g) => g.things.length > 0)
}

/** A line of a sheet, in a person's units. */
export function factText(f: SheetFact, format: (kind: Kind, si: number) => string): string {
  if (!f.kind) return f.words ?? ''
  return [format(f.kind as Kind, f.si ?? 0), f.words].filter(Boolean).join(' ')
}
