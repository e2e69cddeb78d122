// Keeps the application and what it last got from its server, so that it opens and works while that is away. What is
// changed meanwhile is the pen's to keep and to send (web/store/pen): nothing but reading passes through here.
// The build puts the list of files and a name for them in place of the two constants.
const FILES = self.__FILES__
const SHELL = `markpost-shell-${self.__VERSION__}`
const ANSWERS = 'markpost-answers'

/** Answers that are kept: the catalogue, the list, and plans that were opened. */
const KEPT = /^\/api\/(catalog|samples|entries|bin|state|plans(\/[\w-]+)?)$/
/** Answers that are kept at most; the oldest go. */
const MOST_ANSWERS = 300

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(SHELL)
      .then((cache) => cache.addAll(['/', ...FILES]))
      .then(() => self.skipWaiting()),
  )
})

self.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) =>
        Promise.all(
          names
            .filter((name) => name.startsWith('markpost-shell-') && name !== SHELL)
            .map((name) => caches.delete(name)),
        ),
      )
      .then(() => self.clients.claim()),
  )
})

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== self.location.origin) return
  if (request.mode === 'navigate') event.respondWith(page(request))
  else if (url.pathname.startsWith('/assets/') || FILES.includes(url.pathname)) event.respondWith(file(request))
  else if (KEPT.test(url.pathname)) event.respondWith(answer(request))
})

/** The page from the server; while that is away, the one that was kept. */
async function page(request) {
  try {
    return await fetch(request)
  } catch (error) {
    const kept = await caches.match('/', { cacheName: SHELL })
    if (kept) return kept
    throw error
  }
}

/** A file whose name tells its content: kept once, it is never asked for again. */
async function file(request) {
  const kept = await caches.match(request)
  if (kept) return kept
  const fresh = await fetch(request)
  if (fresh.ok && new URL(request.url).pathname.startsWith('/assets/')) {
    const cache = await caches.open(SHELL)
    await cache.put(request, fresh.clone())
  }
  return fresh
}

/** What the server says now; while it is away, what it said last. */
async function answer(request) {
  try {
    const fresh = await fetch(request)
    if (fresh.ok) {
      const copy = fresh.clone()
      // Keeping must not hold up the answer, and its failing changes nothing.
      keep(request, copy).catch(() => undefined)
    }
    return fresh
  } catch (error) {
    const kept = await caches.match(request, { cacheName: ANSWERS })
    if (kept) return kept
    throw error
  }
}

async function keep(request, response) {
  const cache = await caches.open(ANSWERS)
  await cache.put(request, response)
  const all = await cache.keys()
  await Promise.all(all.slice(0, Math.max(0, all.length - MOST_ANSWERS)).map((one) => cache.delete(one)))
}
