// Keeps the application on the device, so that a day at a job opens and runs without a
// network. What the server holds is never kept here: that is the page's own matter.
//
// Each build has a cache of its own. It is used once all of it is there, and the one before
// goes only then: a page is never made of two builds.
const PREFIX = 'nephelon-shell '
const CURRENT = 'nephelon-current'
const MARK = '/__build'

self.addEventListener('install', (event) => {
  event.waitUntil(self.skipWaiting())
})
self.addEventListener('activate', (event) => {
  event.waitUntil(self.clients.claim())
})

const entryOf = (text) => text.match(/assets\/index-[\w-]+\.js/)?.[0]

/** The name of the cache that holds a whole build; undefined while there is none. */
async function current() {
  return (await (await caches.open(CURRENT)).match(MARK))?.text()
}

/** Installs the build that a page is made of. Fails, and changes nothing, unless all of it came. */
async function install(paths) {
  const build = paths.map(entryOf).find(Boolean)
  const page = await fetch('/', { cache: 'no-store' })
  if (!build || !page.ok || entryOf(await page.clone().text()) !== build) return
  const name = PREFIX + build
  const shell = await caches.open(name)
  await shell.put('/', page)
  const missing = []
  for (const path of new Set(paths)) if (!(await shell.match(path))) missing.push(path)
  await shell.addAll(missing)
  await (await caches.open(CURRENT)).put(MARK, new Response(name))
  for (const other of await caches.keys()) if (other !== name && other !== CURRENT) await caches.delete(other)
}

// The page says what it is made of, and hears whether it opens without a network.
self.addEventListener('message', (event) => {
  event.waitUntil(
    (async () => {
      await install(event.data).catch(() => undefined) // asked for again the next time
      event.ports[0]?.postMessage((await current()) !== undefined)
    })(),
  )
})

self.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url)
  if (event.request.method !== 'GET' || url.origin !== location.origin || url.pathname.startsWith('/api/'))
    return
  const kept = async (path) => {
    const name = await current()
    return name ? (await caches.open(name)).match(path) : undefined
  }
  if (event.request.mode === 'navigate') {
    event.respondWith(fetch(event.request).catch(() => kept('/').then((page) => page ?? Response.error())))
    return
  }
  event.respondWith(kept(url.pathname).then((answer) => answer ?? fetch(event.request)))
})
