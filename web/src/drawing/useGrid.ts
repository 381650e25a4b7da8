import { ref, watch } from 'vue'
import { useSession } from '../session/session'

const INCH = 0.0254

/** The steps a drawing can snap to, in metres. */
export function gridSteps(units: string): number[] {
  return units === 'us'
    ? [INCH / 4, INCH, 3 * INCH, 6 * INCH, 12 * INCH, 24 * INCH]
    : [0.005, 0.01, 0.05, 0.1, 0.25, 0.5, 1]
}

/** The grid a drawing snaps to; finer for small things. */
export function useGrid(fine = false) {
  const session = useSession()
  const grid = ref(0.1)
  watch(
    () => session.units,
    (units) => (grid.value = units === 'us' ? (fine ? INCH : 6 * INCH) : fine ? 0.01 : 0.1),
    { immediate: true },
  )
  return grid
}
