import { ref } from 'vue'

/** How many changes wait on this page for a server that does not answer. */
export const waiting = ref(0)
/** Ended when somebody signs out: what one person left waiting is never sent as another. */
let stay = new AbortController()
const AGAIN = 2000
const GONE = 404

export function letGo(): void {
  stay.abort()
  stay = new AbortController()
}

/** Changes that are the same however often they are sent: each names what it was made from, or sets a whole. */
const sameTwice = (request: Request): boolean => {
  const path = new URL(request.url).pathname
  return (
    (request.method === 'PUT' || request.method === 'DELETE') &&
    !path.startsWith('/api/me/') &&
    path !== '/api/session'
  )
}

const isAway = (answer: Response): boolean => answer.status >= 502 && answer.status <= 504

const pause = (gone: AbortSignal): Promise<void> =>
  new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, AGAIN)
    gone.addEventListener('abort', () => {
      clearTimeout(timer)
      reject(new Error('signed out'))
    })
  })

/**
 * Sends a request. A change whose answer does not come was perhaps taken: it waits, is told as
 * waiting, and is sent again until it is answered.
 */
export async function patiently(request: Request): Promise<Response> {
  if (!sameTwice(request)) return window.fetch(request)
  const gone = stay.signal
  let told = false
  try {
    for (;;) {
      try {
        const answer = await window.fetch(request.clone())
        if (!isAway(answer))
          return told && request.method === 'DELETE' && answer.status === GONE
            ? new Response(null, { status: 204 })
            : answer
      } catch (error) {
        if (gone.aborted) throw error
      }
      if (!told) waiting.value++
      told = true
      await pause(gone)
    }
  } finally {
    if (told) waiting.value--
  }
}
