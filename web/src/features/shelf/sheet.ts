import type { Product } from '../../api/client'
import type { ReadKind } from '../../fields/useReader'

/** The fields of a data sheet that hold one sourced value each. */
export type SourcedKey =
  | 'voc'
  | 'vocThinned'
  | 'loss'
  | 'density'
  | 'mixing'
  | 'mixingAgain'
  | 'mixingMax'
  | 'induction'
  | 'mixMax'
  | 'filmMin'
  | 'filmMax'
  | 'filmMaxVertical'
  | 'hides'
  | 'airMin'
  | 'airMax'
  | 'slabMin'
  | 'slabMax'
  | 'materialMin'
  | 'materialMax'
  | 'humidityMax'
  | 'dewMargin'
  | 'humidityMin'
  | 'slabHumidityMax'
  | 'carbideMax'
  | 'emissionMax'
  | 'massSolids'
  | 'abrade'
  | 'shelfLife'
  | 'storeMin'
  | 'storeMax'

export type TimesKey =
  'working' | 'tackFree' | 'recoatFrom' | 'recoatUntil' | 'foot' | 'furniture' | 'vehicle' | 'water' | 'full'

export const sheetTimes: { key: TimesKey; label: string }[] = [
  { key: 'working', label: 'Working time' },
  { key: 'tackFree', label: 'Tack-free' },
  { key: 'recoatFrom', label: 'Recoat from' },
  { key: 'recoatUntil', label: 'Recoat until' },
  { key: 'foot', label: 'Light foot' },
  { key: 'furniture', label: 'Furniture' },
  { key: 'vehicle', label: 'Vehicles' },
  { key: 'water', label: 'Water' },
  { key: 'full', label: 'Full cure' },
]

export interface SourcedFieldOf {
  key: SourcedKey
  label: string
  kind: ReadKind
}
export const filmFields: SourcedFieldOf[] = [
  { key: 'filmMin', label: 'Min. wet film', kind: 'film' },
  { key: 'filmMax', label: 'Max. wet film', kind: 'film' },
  { key: 'filmMaxVertical', label: 'Max. wet film, vertical', kind: 'film' },
  { key: 'hides', label: 'Minimum hiding film', kind: 'film' },
  { key: 'loss', label: 'Usual loss', kind: 'fraction' },
]
export const mixFields: SourcedFieldOf[] = [
  { key: 'density', label: 'Density of the mix', kind: 'density' },
  { key: 'massSolids', label: 'Solids by mass', kind: 'fraction' },
  { key: 'voc', label: 'VOC', kind: 'content' },
  { key: 'vocThinned', label: 'VOC, thinned as far as allowed', kind: 'content' },
  { key: 'mixing', label: 'Mixing time', kind: 'span' },
  { key: 'mixingMax', label: 'Mixing at most', kind: 'span' },
  { key: 'mixingAgain', label: 'Second mixing, another vessel', kind: 'span' },
  { key: 'induction', label: 'Induction time', kind: 'span' },
  { key: 'mixMax', label: 'Most mixed at once', kind: 'mass' },
]
export const limitFields: SourcedFieldOf[] = [
  { key: 'slabMin', label: 'Min. slab temperature', kind: 'temperature' },
  { key: 'slabMax', label: 'Max. slab temperature', kind: 'temperature' },
  { key: 'airMin', label: 'Min. air temperature', kind: 'temperature' },
  { key: 'airMax', label: 'Max. air temperature', kind: 'temperature' },
  { key: 'materialMin', label: 'Min. material temperature', kind: 'temperature' },
  { key: 'materialMax', label: 'Max. material temperature', kind: 'temperature' },
  { key: 'humidityMax', label: 'Max. air humidity', kind: 'fraction' },
  { key: 'dewMargin', label: 'Dew point margin, K', kind: 'number' },
  { key: 'humidityMin', label: 'Min. air humidity', kind: 'fraction' },
  { key: 'slabHumidityMax', label: 'Max. slab humidity', kind: 'fraction' },
  { key: 'carbideMax', label: 'Max. slab moisture, carbide method', kind: 'fraction' },
  { key: 'emissionMax', label: 'Max. moisture emission (MVER)', kind: 'emission' },
]
export const storeFields: SourcedFieldOf[] = [
  { key: 'shelfLife', label: 'Shelf life', kind: 'span' },
  { key: 'storeMin', label: 'Min. storage temperature', kind: 'temperature' },
  { key: 'storeMax', label: 'Max. storage temperature', kind: 'temperature' },
]

/** The fields of a sheet by their labels; those that hold no single value by words of their own. */
export const fieldWords: Record<string, string> = {
  ...Object.fromEntries(
    [...filmFields, ...mixFields, ...limitFields, ...storeFields, ...sheetTimes].map((f) => [f.key, f.label]),
  ),
  potLife: 'Pot life',
  volumeSolids: 'Volume solids',
  printed: 'Coverage or consumption',
  amounts: 'Coverage or consumption, by use',
  thinnerMax: 'Thinner, at most',
  over: 'Compatible substrates',
  under: 'Compatible topcoats',
  sun: 'UV resistance',
  abrade: 'Grit for abrading after the window',
  voc: 'VOC',
}

export const groundWords: Record<NonNullable<Product['over']>[number], string> = {
  concrete: 'concrete',
  screed: 'screed',
  plaster: 'plaster',
  wood: 'wood and board',
  metal: 'metal',
  tile: 'tile',
  stone: 'stone',
  laminate: 'laminate',
  'old-paint': 'old paint',
  epoxy: 'epoxy',
  novolac: 'novolac',
  polyurethane: 'polyurethane',
  polyaspartic: 'polyaspartic',
  acrylic: 'acrylic',
  polyester: 'polyester',
  alkyd: 'alkyd',
}
