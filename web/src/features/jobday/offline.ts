import { onScopeDispose, ref, watch, type Ref } from 'vue'

const SETTLED_MS = 1500

/**
 * Has this page and all that it is made of kept on the device, once it is ready, so that it
 * opens without a network; gives whether that is so by now.
 */
export function useOffline(ready: Ref<boolean>): Ref<boolean> {
  const kept = ref(false)
  async function keep(): Promise<void> {
    await navigator.serviceWorker.register('/worker.js')
    const { active } = await navigator.serviceWorker.ready
    const channel = new MessageChannel()
    channel.port1.onmessage = (event: MessageEvent<boolean>) => (kept.value = event.data)
    active?.postMessage(
      performance
        .getEntriesByType('resource')
        .map((e) => new URL(e.name))
        .filter((u) => u.origin === location.origin && !u.pathname.startsWith('/api/'))
        .map((u) => u.pathname),
      [channel.port2],
    )
  }
  // Without it the day still runs while the page is open; what is logged is kept either way.
  let settled: ReturnType<typeof setTimeout> | undefined
  watch(
    ready,
    (is) => {
      clearTimeout(settled)
      if (!is || !('serviceWorker' in navigator)) return
      settled = setTimeout(() => void keep().catch(() => undefined), SETTLED_MS)
    },
    { immediate: true },
  )
  onScopeDispose(() => clearTimeout(settled))
  return kept
}
