import { dataOf, useRequest } from '../../api/useRequest'
import { ref, watch } from 'vue'
import { api, type Closure, type Leg, type Walked } from '../../api/client'
import type { Draft } from '../../drawing/useDraft'

const AWAY = 'The server does not answer, so this is not read yet. It stays here.'
const FULL_TURN = 360

/** The tape walk: typed runs of lengths and turns, and whether they close. */
export function useWalk(draft: Draft) {
  const heading = ref(0)
  const closure = ref<Closure | null>(null)

  watch(draft.points, () => (closure.value = null))

  const { trouble, ask } = useRequest()

  /** The wall just walked, to which a diagonal is measured. */
  function before(): Leg | undefined {
    const [a, b] = draft.points.value.slice(-2)
    if (!a || !b) return undefined
    const degrees = (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI
    return { length: Math.hypot(b.x - a.x, b.y - a.y), heading: (degrees + FULL_TURN) % FULL_TURN, echo: '' }
  }

  async function read(text: string): Promise<Walked | string> {
    const { data } = await ask(
      api.POST('/api/walk/read', { body: { text, heading: heading.value, before: before() } }),
      'This walk cannot be followed.',
      AWAY,
    )
    return data ?? trouble.value
  }

  /** Adds what was typed to the draft; returns why it could not, or ''. A whole rectangle is closed. */
  async function take(text: string, close: () => void): Promise<string> {
    const walked = await read(text)
    if (typeof walked === 'string') return walked
    if (walked.closes && draft.open.value) return 'A line has no sides. Type its lengths one by one.'
    if (walked.legs.length > 0) draft.tape({ typed: text.trim(), heading: heading.value }, walked.legs.length)
    for (const leg of walked.legs) draft.addWall(leg.length, leg.heading)
    heading.value = walked.heading
    if (walked.closes) close()
    return ''
  }

  /** Asks whether the walk, back at its start, closes. */
  async function check(): Promise<void> {
    const data = await dataOf(api.POST('/api/walk/check', { body: { corners: draft.points.value } }))
    closure.value = data ?? null
    draft.gap.value = draft.gap.value ?? data?.gap
  }

  return { heading, closure, read, take, check }
}
