import type { Point } from '../api/client'

/** The box around points, in metres. */
export interface Box {
  left: number
  bottom: number
  right: number
  top: number
}

export function boxAround(points: Point[]): Box | null {
  if (points.length === 0) return null
  const box = { left: Infinity, right: -Infinity, bottom: Infinity, top: -Infinity }
  for (const p of points) {
    box.left = Math.min(box.left, p.x)
    box.right = Math.max(box.right, p.x)
    box.bottom = Math.min(box.bottom, p.y)
    box.top = Math.max(box.top, p.y)
  }
  return box
}

/** Maps metres, y upward, into a drawing, y downward. */
export interface View {
  scale: number
  x: (p: Point) => number
  y: (p: Point) => number
  at: (px: number, py: number) => Point
}

export function fit(box: Box, width: number, height: number, margin: number): View {
  const spanX = Math.max(box.right - box.left, 0.5)
  const spanY = Math.max(box.top - box.bottom, 0.5)
  const scale = Math.min((width - 2 * margin) / spanX, (height - 2 * margin) / spanY)
  const offsetX = (width - scale * (box.right - box.left)) / 2
  const offsetY = (height - scale * (box.top - box.bottom)) / 2
  return {
    scale,
    x: (p) => offsetX + scale * (p.x - box.left),
    y: (p) => height - offsetY - scale * (p.y - box.bottom),
    at: (px, py) => ({
      x: box.left + (px - offsetX) / scale,
      y: box.bottom + (height - offsetY - py) / scale,
    }),
  }
}

export function path(rings: Point[][], view: View): string {
  return rings
    .map((ring) => 'M' + ring.map((p) => `${view.x(p).toFixed(1)} ${view.y(p).toFixed(1)}`).join('L') + 'Z')
    .join('')
}

export function middle(a: Point, b: Point): Point {
  return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }
}

export function distance(a: Point, b: Point): number {
  return Math.hypot(b.x - a.x, b.y - a.y)
}

/** Whether a ring runs counter-clockwise, with its inside to the left. */
export function windsLeft(ring: Point[]): boolean {
  const twice = ring.reduce((sum, a, i) => {
    const b = ring[(i + 1) % ring.length] ?? a
    return sum + a.x * b.y - b.x * a.y
  }, 0)
  return twice >= 0
}

/** The place on a closed line nearest to a point. */
export function nearestOn(ring: Point[], p: Point): Point {
  let best = ring[0] ?? p
  let least = Infinity
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length] ?? a
    const dx = b.x - a.x
    const dy = b.y - a.y
    const square = dx * dx + dy * dy
    const share = square > 0 ? Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / square)) : 0
    const q = { x: a.x + share * dx, y: a.y + share * dy }
    const d = distance(p, q)
    if (d < least) {
      least = d
      best = q
    }
  })
  return best
}

/** Rounds to a hundredth of a millimetre, so that sums of lengths stay clean. */
export function tidy(metres: number): number {
  return Math.round(metres * 1e5) / 1e5
}

/** A copy of a drawing in which every point is moved alike. */
export function mapPoints<T>(thing: T, by: (p: Point) => Point): T {
  return JSON.parse(JSON.stringify(thing), (_, value: unknown) => {
    const p = value as Point | null
    const isPoint = typeof p === 'object' && p !== null && typeof p.x === 'number' && typeof p.y === 'number'
    return isPoint ? by(p) : value
  }) as T
}

/** The four corners of a rectangle that stands square on the plan. */
export function rectangle(x: number, y: number, width: number, height: number): Point[] {
  return [
    { x: tidy(x), y: tidy(y) },
    { x: tidy(x + width), y: tidy(y) },
    { x: tidy(x + width), y: tidy(y + height) },
    { x: tidy(x), y: tidy(y + height) },
  ]
}
