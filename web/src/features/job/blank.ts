import words from '../../api/words.gen.json'
import { ownZone } from '../../fields/clock'
import type { House, Medium, PlanFile, Surface, Units } from '../../api/client'

/** A short id, unique enough inside one job. */
export function newId(): string {
  return crypto.randomUUID().slice(0, 13)
}

const US_GALLON = 0.003785411784
const SQ_FOOT = 0.09290304
const HOUR = 3600

export type SurfaceKind = 'floor' | 'top' | 'pool'

export function kindOf(surface: Surface): SurfaceKind {
  if (surface.top) return 'top'
  return surface.pool ? 'pool' : 'floor'
}

/** A surface with nothing decided yet. */
export function blankSurface(name: string, kind: SurfaceKind = 'floor'): Surface {
  const surface: Surface = { id: newId(), name, floor: { outline: [], holes: [] }, layout: {}, coats: [] }
  if (kind === 'top') surface.top = { pieces: [] }
  if (kind === 'pool') surface.pool = { form: 'rectangle' }
  return surface
}

/** A copy of a part of a job in which everything that has an id gets a fresh one. */
export function copyOf<T>(thing: T): T {
  return JSON.parse(JSON.stringify(thing), (name: string, value: unknown) =>
    name === 'id' ? newId() : value,
  ) as T
}

/** A job that starts from how the company works, with its own tools. */
export function blankFile(
  name: string,
  client: string,
  units: Units,
  house: House = {},
  tools: Medium[] = [],
): PlanFile {
  const us = units === 'us'
  const USUAL_PACE = us ? (480 * SQ_FOOT) / HOUR : 45 / HOUR
  return {
    format: 'nephelon-job',
    version: words.planVersion,
    job: {
      name,
      client: client || undefined,
      currency: house.currency ?? (us ? 'USD' : 'EUR'),
      crew: house.crew ?? { spreaders: 2, pace: { value: USUAL_PACE, source: 'rule-of-thumb' } },
      bucket: house.bucket ?? { volume: us ? 5 * US_GALLON : 0.02, headroom: 0.2 },
      methods: house.methods,
      rules: house.rules,
      vocMax: house.vocMax,
      slab: house.slab,
      margin: house.margin,
      hourCost: house.hourCost,
      zone: house.zone ?? ownZone(),
      hours: house.hours,
      surfaces: [blankSurface('Floor 1')],
    },
    products: [],
    media: tools.length > 0 ? tools : undefined,
  }
}
