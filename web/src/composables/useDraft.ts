import { computed, ref } from 'vue'
import type { Point } from '../api/client'
import { tidy } from '../lib/figures'

export type DraftKind = 'outline' | 'hole'

/** A line of walls being drawn or typed, not yet closed. */
export function useDraft() {
  const points = ref<Point[]>([])
  const kind = ref<DraftKind>('outline')
  const drawing = ref(false)

  function begin(what: DraftKind): void {
    kind.value = what
    points.value = []
    drawing.value = true
  }

  function add(p: Point): void {
    const last = points.value.at(-1)
    if (last && last.x === p.x && last.y === p.y) return
    points.value = [...points.value, p]
  }

  /** Adds the end of a wall of a length, in a direction in degrees. */
  function addWall(length: number, degrees: number): void {
    const from = points.value.at(-1) ?? { x: 0, y: 0 }
    if (points.value.length === 0) points.value = [from]
    const angle = (degrees * Math.PI) / 180
    points.value = [
      ...points.value,
      { x: tidy(from.x + length * Math.cos(angle)), y: tidy(from.y + length * Math.sin(angle)) },
    ]
  }

  function back(): void {
    points.value = points.value.slice(0, -1)
  }

  /** Ends the draft and gives its corners; a last corner on the first is dropped. */
  function close(): Point[] {
    const first = points.value[0]
    const last = points.value.at(-1)
    const closed =
      first && last && points.value.length > 3 && Math.hypot(first.x - last.x, first.y - last.y) < 0.002
        ? points.value.slice(0, -1)
        : points.value
    cancel()
    return closed
  }

  function cancel(): void {
    points.value = []
    drawing.value = false
  }

  return {
    points,
    kind,
    drawing,
    closable: computed(() => points.value.length >= 3),
    begin,
    add,
    addWall,
    back,
    close,
    cancel,
  }
}

export type Draft = ReturnType<typeof useDraft>
