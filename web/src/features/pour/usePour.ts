import { useDebounceFn } from '@vueuse/core'
import { ref, watch, type Ref } from 'vue'
import {
  api,
  refusal,
  type Begun,
  type Chance,
  type EditStep,
  type PourPlan,
  type PourWay,
} from '../../api/client'
import { useDesk } from '../job/useEditor'

/** A pour with its odds. */
export interface Tried {
  pour: PourPlan
  odds?: Chance
}
export interface Pour {
  now: Ref<Tried | undefined>
  tried: Ref<Tried | undefined>
  ways: Ref<PourWay[]>
  starts: Ref<Begun[]>
  trouble: Ref<string>
}

const RUNS = 2000
const SEED = 1
const SETTLED_MS = 350

/** What is tried on a pour: a change of the file, and how long its first section took, s. */
export interface Attempt {
  patch: EditStep[]
  first?: number
}

/** The pour of a coat as the job stands and with something tried on it, with the odds of both and what would help. */
export function usePour(coat: Ref<string | undefined>, attempt: Ref<Attempt>): Pour {
  const desk = useDesk()
  const now = ref<Tried>()
  const tried = ref<Tried>()
  const ways = ref<PourWay[]>([])
  const starts = ref<Begun[]>([])
  const trouble = ref('')
  const params = { path: { job: desk.jobId } }
  let asking: AbortController | undefined
  let counting: AbortController | undefined

  const tries = (): boolean => attempt.value.patch.length > 0 || attempt.value.first !== undefined
  async function odds(
    of: Ref<Tried | undefined>,
    body: { coat: string; patch?: EditStep[]; first?: number },
  ): Promise<void> {
    const signal = counting?.signal
    const { data } = await api.POST('/api/jobs/{job}/pour/odds', {
      params,
      body: { ...body, runs: RUNS, seed: SEED },
      signal,
    })
    if (!signal?.aborted && data && of.value) of.value = { ...of.value, odds: data }
  }
  /** Asks what takes longer, once nothing more is changed. */
  const settled = useDebounceFn(async () => {
    const id = coat.value
    if (!id || !now.value) return
    counting?.abort()
    counting = new AbortController()
    const { signal } = counting
    try {
      await odds(now, { coat: id })
      if (tries()) await odds(tried, { coat: id, ...attempt.value })
      const { data } = await api.POST('/api/jobs/{job}/pour/ways', { params, body: { coat: id }, signal })
      if (!signal.aborted && data) ways.value = data
      const hours = await api.POST('/api/jobs/{job}/pour/starts', { params, body: { coat: id }, signal })
      if (!signal.aborted && hours.data) starts.value = hours.data
    } catch {
      if (!signal.aborted) trouble.value = 'The server does not answer; the odds are missing.'
    }
  }, SETTLED_MS)

  async function ask(): Promise<void> {
    const id = coat.value
    asking?.abort()
    counting?.abort()
    if (!id) {
      now.value = tried.value = undefined
      return
    }
    const mine = new AbortController()
    asking = mine
    try {
      const answer = await api.POST('/api/jobs/{job}/pour', {
        params,
        body: { coat: id },
        signal: mine.signal,
      })
      const other = tries()
        ? await api.POST('/api/jobs/{job}/pour', {
            params,
            body: { coat: id, ...attempt.value },
            signal: mine.signal,
          })
        : undefined
      if (mine.signal.aborted) return
      now.value = answer.data && { pour: answer.data }
      tried.value = other?.data && { pour: other.data }
      trouble.value =
        answer.error || other?.error
          ? refusal(answer.error ?? other?.error, 'This pour cannot be calculated.')
          : ''
      void settled()
    } catch {
      if (!mine.signal.aborted)
        trouble.value = 'The server does not answer. These figures may be out of date.'
    }
  }
  watch([coat, attempt, desk.plan], () => void ask(), { immediate: true })
  return { now, tried, ways, starts, trouble }
}
