import { scaleLinear, scaleLog } from 'd3-scale'
import table from '../api/units.gen.json'
import type { Units } from '../api/client'
import { format, type Kind } from '../session/units'

/** A round place on an axis, in SI and as it is read. */
export interface Tick {
  si: number
  words: string
}

interface Unit {
  si: number
  offset: number
}

/** The unit in which a size of a kind is read, as the fields and sentences do. */
function unitFor(kind: Kind, size: number, units: Units): Unit {
  const steps: (Unit & { from: number })[] = table[units][kind]
  return steps.find((s) => Math.abs(size) >= s.from) ?? { si: 1, offset: 0 }
}

/** Places along an axis that are round in the units of whoever reads it. */
export function ticks(kind: Kind, from: number, to: number, units: Units, many = 5): Tick[] {
  const { si, offset } = unitFor(kind, Math.max(Math.abs(from), Math.abs(to)), units)
  const scale = scaleLinear().domain([(from - offset) / si, (to - offset) / si])
  return scale.ticks(many).map((v) => ({ si: v * si + offset, words: format(kind, v * si + offset, units) }))
}

/** The same along an axis of decades. */
export function logTicks(kind: Kind, from: number, to: number, units: Units, many = 6): Tick[] {
  const { si } = unitFor(kind, to, units)
  const scale = scaleLog().domain([from / si, to / si])
  return scale.ticks(many).map((v) => ({ si: v * si, words: format(kind, v * si, units) }))
}

/** A scale from values to places on a drawing. */
export const along = (from: number, to: number, start: number, end: number) =>
  scaleLinear().domain([from, to]).range([start, end])
export const alongLog = (from: number, to: number, start: number, end: number) =>
  scaleLog().domain([from, to]).range([start, end])
