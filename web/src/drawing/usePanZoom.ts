import { computed, ref, type Ref } from 'vue'
import { fit, type Box, type View } from './figures'

const MOST = 400
const LEAST = 0.2
const PAN_STEP = 60

/** A view of a plan that can be moved and enlarged with mouse, fingers or keys. */
export function usePanZoom(box: Ref<Box>, width: Ref<number>, height: number, margin: number) {
  const zoom = ref(1)
  const shift = ref({ x: 0, y: 0 })
  const moved = computed(() => zoom.value !== 1 || shift.value.x !== 0 || shift.value.y !== 0)

  /**
   * The view at this enlargement before it was moved, and the way it was moved:
   * lines drawn in the one need not be drawn anew for the other.
   */
  const still = computed<View>(() => {
    const all = fit(box.value, width.value, height, margin)
    const z = zoom.value
    return {
      scale: all.scale * z,
      x: (p) => all.x(p) * z,
      y: (p) => all.y(p) * z,
      at: (px, py) => all.at(px / z, py / z),
    }
  })
  const view = computed<View>(() => {
    const v = still.value
    const { x: dx, y: dy } = shift.value
    return {
      scale: v.scale,
      x: (p) => v.x(p) + dx,
      y: (p) => v.y(p) + dy,
      at: (px, py) => v.at(px - dx, py - dy),
    }
  })
  const slide = computed(() => `translate(${shift.value.x} ${shift.value.y})`)

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
  return { view, still, slide, moved, zoomBy, pan, whole, key }
}
