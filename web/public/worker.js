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
      const shell = await caches.open(SHELL)
      const wanted = new Set([...event.data, '/'])
      for (const path of wanted) {
        if (path !== '/' && (await shell.match(path))) continue
        try {
          await shell.add(path)
        } catch {
          // It is asked for again the next time the page is opened.
        }
      }
      // What an earlier build was made of goes.
      const index = await (await shell.match('/'))?.text()
      for (const kept of await shell.keys()) {
        const path = new URL(kept.url).pathname
        const entry = index?.match(/assets\/index-[\w-]+\.js/)?.[0]
        if (entry && /^\/assets\/index-[\w-]+\.js$/.test(path) && !path.endsWith(entry))
          await shell.delete(kept)
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
