import { watchDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, type Measured, type Point, type Taping, type Walk } from '../api/client'
import { tidy } from './figures'

/** What is being drawn; a line stays open, the rest closes on its first corner. */
export type DraftKind = 'outline' | 'hole' | 'zone' | 'line'

const CLOSED = 0.002
const MEASURE_MS = 60

/** A line of walls being drawn or typed, not yet closed. */
export function useDraft() {
  const points = ref<Point[]>([])
  const kind = ref<DraftKind>('outline')
  const drawing = ref(false)
  /** What the tape read, with how many walls came of each reading. */
  const taped = ref<(Taping & { walls: number })[]>([])
  const mended = ref('')
  const gap = ref<number>()
  const measured = ref<Measured | null>(null)
  const open = computed(() => kind.value === 'line')
  const closable = computed(() => points.value.length >= (open.value ? 2 : 3))

  /** What the walls enclose once closed; the server measures. */
  watchDebounced(
    points,
    async (now) => {
      if (!closable.value || open.value) {
        measured.value = null
        return
      }
      // What was measured before stays until the new measure is there, so that
      // nothing below it jumps.
      try {
        const { data } = await api.POST('/api/measure', { body: { outline: corners(now), holes: [] } })
        if (data && now === points.value) measured.value = data
      } catch {
        measured.value = null
      }
    },
    { debounce: MEASURE_MS },
  )

  function begin(what: DraftKind): void {
    kind.value = what
    points.value = []
    taped.value = []
    mended.value = ''
    gap.value = undefined
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
    const angle = (degrees * Math.PI) / 180
    const to = { x: tidy(from.x + length * Math.cos(angle)), y: tidy(from.y + length * Math.sin(angle)) }
    points.value = points.value.length === 0 ? [from, to] : [...points.value, to]
  }

  /** Notes what was typed for the walls just added. */
  function tape(reading: Taping, walls: number): void {
    taped.value = [...taped.value, { ...reading, walls }]
  }

  /** Takes a mended walk in place of the one drawn. */
  function replace(walk: Point[], how: string): void {
    points.value = walk
    mended.value = how
  }

  function back(): void {
    points.value = points.value.slice(0, -1)
    const last = taped.value.at(-1)
    if (!last) return
    const rest = taped.value.slice(0, -1)
    taped.value = last.walls > 1 ? [...rest, { ...last, walls: last.walls - 1 }] : rest
  }

  /** How the tape took the outline; nothing where it was drawn by hand. */
  function walk(): Walk | undefined {
    if (taped.value.length === 0) return undefined
    const readings = taped.value.map(({ typed, heading }) => ({ typed, heading }))
    return { readings, gap: gap.value, mended: mended.value || undefined }
  }

  /** The corners of a walk; a last one on the first is the same corner. */
  function corners(walk: Point[]): Point[] {
    const first = walk[0]
    const last = walk.at(-1)
    const closed = first && last && walk.length > 3 && Math.hypot(first.x - last.x, first.y - last.y) < CLOSED
    return closed ? walk.slice(0, -1) : walk
  }

  /** Ends the draft and gives its corners. */
  function close(): Point[] {
    const closed = open.value ? points.value : corners(points.value)
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
    open,
    measured,
    closable,
    begin,
    add,
    addWall,
    taped,
    gap,
    tape,
    walk,
    replace,
    back,
    close,
    cancel,
  }
}

export type Draft = ReturnType<typeof useDraft>
