// Keeps the application on the device, so that a day at a job opens and runs without a
// network. What the server holds is never kept here: that is the page's own matter.
const SHELL = 'nephelon-shell'

self.addEventListener('install', (event) => {
  event.waitUntil(self.skipWaiting())
})
self.addEventListener('activate', (event) => {
  event.waitUntil(self.clients.claim())
})

// The page says what it is made of.
self.addEventListener('message', (event) => {
  event.waitUntil(
    (async () => {
      // What an earlier build was made of goes with its first page.
      const entry = async (page) => (await page?.text())?.match(/assets\/index-[\w-]+\.js/)?.[0]
      const fresh = await fetch('/').catch(() => undefined)
      if (fresh && (await entry(fresh.clone())) !== (await entry(await caches.match('/'))))
        await caches.delete(SHELL)
      const shell = await caches.open(SHELL)
      if (fresh) await shell.put('/', fresh)
      for (const path of new Set(event.data)) {
        if (!(await shell.match(path))) await shell.add(path).catch(() => undefined) // asked for again the next time
      }
      event.ports[0]?.postMessage(true)
    })(),
  )
})

self.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url)
  if (event.request.method !== 'GET' || url.origin !== location.origin || url.pathname.startsWith('/api/'))
    return
  if (event.request.mode === 'navigate') {
    event.respondWith(
      fetch(event.request).catch(() => caches.match('/').then((page) => page ?? Response.error())),
    )
    return
  }
  event.respondWith(caches.match(url.pathname).then((kept) => kept ?? fetch(event.request)))
})
