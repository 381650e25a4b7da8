import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'

/** Narrower than this nothing is drawn, and where the page is not laid out yet. */
const LEAST = 240

/**
 * The width that the drawing with the reference `drawn` has on screen, so that its letters keep
 * their size on a phone.
 */
export function useDrawnWidth(usual: number) {
  const frame = useTemplateRef<SVGSVGElement>('drawn')
  const { width: measured } = useElementSize(frame)
  const width = computed(() => (measured.value > LEAST ? Math.round(measured.value) : usual))
  return { frame, width }
}
