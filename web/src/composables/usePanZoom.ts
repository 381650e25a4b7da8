import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { fit, type Box, type View } from '../lib/figures'

const MOST = 400
const LEAST = 0.2
const PAN_STEP = 60

/** A view of a plan that can be moved and enlarged with mouse, fingers or keys. */
export function usePanZoom(box: Ref<Box>, width: Ref<number>, height: number, margin: number) {
  const zoom = ref(1)
  const shift = ref({ x: 0, y: 0 })
  const moved = computed(() => zoom.value !== 1 || shift.value.x !== 0 || shift.value.y !== 0)

  const view: ComputedRef<View> = computed(() => {
    const whole = fit(box.value, width.value, height, margin)
    const z = zoom.value
    const { x: dx, y: dy } = shift.value
    return {
      scale: whole.scale * z,
      x: (p) => whole.x(p) * z + dx,
      y: (p) => whole.y(p) * z + dy,
      at: (px, py) => whole.at((px - dx) / z, (py - dy) / z),
    }
  })
  /** Puts metres into the drawing, for a group that holds its lines in metres. */
  const matrix = computed(() => {
    const v = view.value
    const zero = { x: 0, y: 0 }
    return `matrix(${v.scale} 0 0 ${-v.scale} ${v.x(zero)} ${v.y(zero)})`
  })

  function zoomBy(factor: number, px = width.value / 2, py = height / 2): void {
    const to = Math.min(MOST, Math.max(LEAST, zoom.value * factor))
    const real = to / zoom.value
    shift.value = { x: px - (px - shift.value.x) * real, y: py - (py - shift.value.y) * real }
    zoom.value = to
  }
  function pan(dx: number, dy: number): void {
    shift.value = { x: shift.value.x + dx, y: shift.value.y + dy }
  }
  function whole(): void {
    zoom.value = 1
    shift.value = { x: 0, y: 0 }
  }
  function key(event: KeyboardEvent): void {
    const step: Record<string, [number, number]> = {
      ArrowLeft: [PAN_STEP, 0],
      ArrowRight: [-PAN_STEP, 0],
      ArrowUp: [0, PAN_STEP],
      ArrowDown: [0, -PAN_STEP],
    }
    const by = step[event.key]
    if (by) pan(...by)
    else if (event.key === '+' || event.key === '=') zoomBy(1.25)
    else if (event.key === '-') zoomBy(0.8)
    else if (event.key === '0') whole()
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  return { view, matrix, moved, zoomBy, pan, whole, key }
}
