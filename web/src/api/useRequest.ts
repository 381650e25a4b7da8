import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { refusal, type Sent } from './client'

/** What became of a request; the status is 0 where the server did not answer. */
export interface Answer<T> {
  ok: boolean
  data?: T
  status: number
}

export interface Requests {
  /** Why the last request failed; empty after one that did not. */
  trouble: Ref<string>
  /** Whether a request is under way. */
  busy: ComputedRef<boolean>
  /**
   * Waits for a request. A refusal is said in the server's words, or as `refused` where it gave
   * none; a server that does not answer as `away`.
   */
  ask: <T>(request: Promise<Sent<T>>, refused: string, away?: string) => Promise<Answer<T>>
  /** The same for a question that the next one makes idle: undefined where that was asked meanwhile. */
  newest: <T>(request: Promise<Sent<T>>, refused: string, away?: string) => Promise<Answer<T> | undefined>
}

export const AWAY = 'The server does not answer. Try again when the connection is back.'

/** Sends requests of a component and keeps why the last one failed. */
export function useRequest(): Requests {
  const trouble = ref('')
  const underWay = ref(0)
  const busy = computed(() => underWay.value > 0)

  async function answered<T>(
    request: Promise<Sent<T>>,
    refused: string,
    away: string,
    stands: () => boolean,
  ): Promise<Answer<T>> {
    const say = (text: string): void => void (stands() && (trouble.value = text))
    underWay.value++
    try {
      const { data, error, response } = await request
      say(response.ok ? '' : refusal(error, refused))
      return { ok: response.ok, data, status: response.status }
    } catch {
      say(away)
      return { ok: false, status: 0 }
    } finally {
      underWay.value--
    }
  }
  const ask = <T>(request: Promise<Sent<T>>, refused: string, away = AWAY): Promise<Answer<T>> =>
    answered(request, refused, away, () => true)

  let turn = 0
  async function newest<T>(
    request: Promise<Sent<T>>,
    refused: string,
    away = AWAY,
  ): Promise<Answer<T> | undefined> {
    const mine = ++turn
    const answer = await answered(request, refused, away, () => mine === turn)
    return mine === turn ? answer : undefined
  }
  return { trouble, busy, ask, newest }
}

/** Waits for what a page can do without: undefined where it is refused or nothing answers. */
export async function dataOf<T>(request: Promise<Sent<T>>): Promise<T | undefined> {
  try {
    return (await request).data
  } catch {
    return undefined
  }
}

export interface Listed<T> extends Omit<Requests, 'newest'> {
  /** What the server keeps; null until it was read. */
  list: Ref<T | null>
  load: () => Promise<void>
  /** Sends a change, and reads the list anew: what it was made from may be what has changed. */
  change: <A>(request: Promise<Sent<A>>, refused: string, away?: string) => Promise<Answer<A>>
}

/** Reads a list that the server keeps, at once, and again after each change. */
export function useList<T>(read: () => Promise<Sent<T>>, unread: string): Listed<T> {
  const list = ref<T | null>(null) as Ref<T | null>
  const { trouble, busy, ask } = useRequest()

  async function load(): Promise<void> {
    const { data } = await ask(read(), unread)
    if (data !== undefined) list.value = data
  }
  async function change<A>(request: Promise<Sent<A>>, refused: string, away?: string): Promise<Answer<A>> {
    const answer = await ask(request, refused, away)
    const said = trouble.value
    await load()
    if (said) trouble.value = said
    return answer
  }
  void load()
  return { list, trouble, busy, ask, load, change }
}
