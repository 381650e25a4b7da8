import { useThrottleFn } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'
import type { Point } from '../api/client'
import { distance, tidy, type View } from './figures'
import type { PlanMark, PlanRing } from './plan'
import { useSession } from '../session/session'
import type { Draft } from './useDraft'
import { NEAR } from './usePlanSides'

const DRAG_MS = 24

/** A corner while it is dragged. */
export interface DraggedCorner {
  ring: number
  corner: number
  at: Point
}

interface Plan {
  readonly rings: PlanRing[]
  readonly draft: Draft
  readonly grid: number
  readonly placing?: string
}

interface Ground {
  svg: Ref<SVGSVGElement | null>
  view: Ref<View>
  corners: Ref<{ a: Point }[]>
  dragged: Ref<DraggedCorner | null>
  pan: (dx: number, dy: number) => void
}

/** What a hand does on a plan tells these. */
export interface HandTells {
  (event: 'ring', id: string, points: Point[], label: string): void
  (event: 'mark', id: string, at: Point): void
  (event: 'place', at: Point): void
  (event: 'close'): void
}

/** The hand on a plan: it drags corners and marks, draws, places, and moves the ground. */
export function usePlanHand(props: Plan, emit: HandTells, { svg, view, corners, dragged, pan }: Ground) {
  const session = useSession()
  const cursor = ref<Point | null>(null)
  const carried = ref<{ id: string; at: Point } | null>(null)
  const busy = computed(() => props.draft.drawing.value || !!props.placing)

  function where(event: PointerEvent | MouseEvent, snap: boolean): Point {
    const at = svg.value?.getBoundingClientRect()
    if (!at) return { x: 0, y: 0 }
    const p = view.value.at(event.clientX - at.left, event.clientY - at.top)
    if (!snap) return p
    const corner =
      busy.value || carried.value
        ? corners.value.find((c) => distance(c.a, p) * view.value.scale < NEAR)
        : undefined
    if (corner) return corner.a
    const snapped = {
      x: tidy(Math.round(p.x / props.grid) * props.grid),
      y: tidy(Math.round(p.y / props.grid) * props.grid),
    }
    const last = props.draft.points.value.at(-1)
    if (props.draft.drawing.value && event.shiftKey && last) {
      return Math.abs(snapped.x - last.x) > Math.abs(snapped.y - last.y)
        ? { x: snapped.x, y: last.y }
        : { x: last.x, y: snapped.y }
    }
    return snapped
  }

  /** Where the hand went down on the ground of the plan, to move it. */
  let panning: { x: number; y: number; id: number } | null = null
  let dragging = false

  function down(event: PointerEvent): void {
    dragging = false
    if (busy.value && event.button !== 1) return
    panning = { x: event.clientX, y: event.clientY, id: event.pointerId }
  }

  function move(event: PointerEvent): void {
    cursor.value = where(event, true)
    if (panning && panning.id === event.pointerId) {
      const dx = event.clientX - panning.x
      const dy = event.clientY - panning.y
      if (!dragging && Math.hypot(dx, dy) < 4) return
      if (!dragging) svg.value?.setPointerCapture(event.pointerId)
      dragging = true
      pan(dx, dy)
      panning = { ...panning, x: event.clientX, y: event.clientY }
      return
    }
    if (carried.value) carried.value = { ...carried.value, at: cursor.value }
    if (!dragged.value) return
    dragged.value = { ...dragged.value, at: cursor.value }
    void follow()
  }

  function pressed(event: MouseEvent): void {
    if (dragging) return
    if (props.placing) {
      emit('place', where(event, true))
      return
    }
    if (!props.draft.drawing.value) return
    const p = where(event, true)
    const first = props.draft.points.value[0]
    const closing = first && props.draft.closable.value && !props.draft.open.value
    if (closing && distance(first, p) * view.value.scale < NEAR) emit('close')
    else props.draft.add(p)
  }

  function grab(event: PointerEvent, ring: number, corner: number, at: Point): void {
    if (busy.value || !session.mayEdit) return
    event.preventDefault()
    event.stopPropagation()
    svg.value?.setPointerCapture(event.pointerId)
    dragged.value = { ring, corner, at }
  }

  function carry(event: PointerEvent, mark: PlanMark): void {
    if (busy.value || !session.mayEdit || mark.fixed) return
    event.preventDefault()
    event.stopPropagation()
    svg.value?.setPointerCapture(event.pointerId)
    carried.value = { id: mark.id, at: mark.at }
  }

  /** Puts the dragged corner into the job. */
  function settle(): void {
    const d = dragged.value
    const ring = d && props.rings[d.ring]
    if (!d || !ring) return
    emit(
      'ring',
      ring.id,
      ring.points.map((p, c) => (c === d.corner ? d.at : p)),
      `corner ${d.corner}`,
    )
  }
  /** The figures follow the hand. */
  const follow = useThrottleFn(settle, DRAG_MS)

  function drop(): void {
    panning = null
    settle()
    dragged.value = null
    if (carried.value) emit('mark', carried.value.id, carried.value.at)
    carried.value = null
  }

  function cancel(): void {
    panning = null
    dragged.value = null
    carried.value = null
  }

  /** A corner set into the middle of a side, ready to be dragged. */
  function insert(event: PointerEvent, r: number, side: number, at: Point): void {
    const ring = props.rings[r]
    if (!session.mayEdit || !ring) return
    const snapped = { x: tidy(at.x), y: tidy(at.y) }
    emit('ring', ring.id, ring.points.toSpliced(side + 1, 0, snapped), 'insert corner')
    grab(event, r, side + 1, snapped)
  }

  function remove(r: number, corner: number): void {
    const ring = props.rings[r]
    if (ring && ring.points.length > 3 && session.mayEdit)
      emit('ring', ring.id, ring.points.toSpliced(corner, 1), 'remove corner')
  }

  return { cursor, carried, busy, down, move, pressed, grab, carry, drop, cancel, insert, remove }
}
