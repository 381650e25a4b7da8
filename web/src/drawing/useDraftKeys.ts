import { useEventListener } from '@vueuse/core'
import { isTyping } from '../fields/typing'
import type { Draft } from './useDraft'

/**
 * Listens for the keys of a draft while the component is there: Enter closes the outline,
 * Backspace takes the last corner back, Escape ends drawing and whatever else `ended` ends.
 */
export function useDraftKeys(draft: Draft, close: () => void, ended?: () => void): void {
  useEventListener(window, 'keydown', (event) => {
    if (isTyping(event) || event.ctrlKey || event.metaKey) return
    const onButton = (event.target as HTMLElement).closest('button') !== null
    if (event.key === 'Escape') {
      draft.cancel()
      ended?.()
    } else if (!draft.drawing.value || onButton) return
    else if (event.key === 'Enter') close()
    else if (event.key === 'Backspace') draft.back()
  })
}
