import { useEventListener, useMutationObserver } from '@vueuse/core'
import { nextTick } from 'vue'
import type { Router } from 'vue-router'

const STEP = 50
const LONGEST = 4000

/**
 * Keeps the focus of the keyboard where a person expects it: on the heading after a change of
 * page, and back where it was after a dialog. Left alone it falls to the body in both cases.
 */
export function useFocusKept(router: Router): void {
  let last: HTMLElement | null = null
  useEventListener(document, 'focusin', (event) => {
    const to = event.target as HTMLElement
    if (!to.closest('.v-overlay')) last = to
  })
  const lost = (main?: Element | null): boolean =>
    !document.activeElement || document.activeElement === document.body || document.activeElement === main

  /** The focus is still in the dialog from which somebody went to another page. */
  const closing = (): boolean => !!document.activeElement?.closest('.v-overlay')

  useMutationObserver(
    document.body,
    (changes) => {
      const closed = changes.some((c) =>
        [...c.removedNodes].some((n) => n instanceof HTMLElement && n.classList.contains('v-dialog')),
      )
      if (closed && lost() && last?.isConnected) last.focus({ preventScroll: true })
    },
    { childList: true, subtree: true },
  )

  router.afterEach(async (to, from) => {
    if (from.matched.length === 0 || to.path === from.path) return
    await nextTick()
    if (!lost() && !closing()) return
    const main = document.getElementById('main')
    if (!closing()) main?.focus({ preventScroll: true })
    // A page that reads something first has its heading later, and a dialog that led here holds the focus until it is gone.
    for (let waited = 0; waited < LONGEST && (lost(main) || closing()); waited += STEP) {
      const heading = document.querySelector<HTMLElement>('#main h1:not(.early), #main section h2')
      if (heading && !closing()) {
        heading.tabIndex = -1
        heading.focus({ preventScroll: true })
        return
      }
      await new Promise((wake) => setTimeout(wake, STEP))
    }
  })
}
