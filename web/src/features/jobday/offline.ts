/** Has this page and all that it is made of kept on the device, so that it opens without a network. */
export async function keepOffline(): Promise<void> {
  if (!('serviceWorker' in navigator)) return
  try {
    await navigator.serviceWorker.register('/worker.js')
    const { active } = await navigator.serviceWorker.ready
    const keep = (): void =>
      active?.postMessage(
        performance
          .getEntriesByType('resource')
          .map((e) => new URL(e.name))
          .filter((u) => u.origin === location.origin && !u.pathname.startsWith('/api/'))
          .map((u) => u.pathname),
      )
    keep()
    const SETTLED_MS = 3000
    setTimeout(keep, SETTLED_MS)
  } catch {
    // Without it the day still runs while the page is open; what is logged is kept either way.
  }
}
