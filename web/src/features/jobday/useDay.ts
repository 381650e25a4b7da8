import { useEventListener, useEventSource } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import {
  api,
  refusal,
  type RecordBody,
  type RecordDay,
  type RecordEvent,
  type RecordIssue,
  type RecordKind,
} from '../../api/client'
import { openFloor, type Floor } from '../../record/floor'
import { openJournal, type Journal } from '../../record/journal'
import type { Kind } from '../../fields/units'
import { useSession } from '../people/session'
import { sendPhotos } from './photo'
import { useClock } from './useClock'

const RETRY_MS = 2000
const SENT_AT_ONCE = 500
const MILLIS = 1000

/**
 * A day at a job: every touch is kept on this device first, told at once, and sent when
 * there is a network. What others log comes in as it is sent.
 */
export function useDay(job: string) {
  const session = useSession()
  const clock = useClock('nephelon.behind')
  const issue = shallowRef<RecordIssue | null>(null)
  const day = shallowRef<RecordDay | null>(null)
  /** A newer plan than the one shown, where one was issued. */
  const newer = shallowRef<RecordIssue | null>(null)
  const waiting = ref(0)
  /** Photographs that wait to be sent. */
  const photos = ref(0)
  const state = ref<'reading' | 'level' | 'away' | 'signed-out'>('reading')
  const trouble = ref('')
  const refused = shallowRef<{ event: RecordEvent; text: string }[]>([])
  /** What was logged on this device last, so that it can be taken back. */
  const last = shallowRef<RecordEvent | null>(null)
  let floor: Floor | undefined
  let journal: Journal | undefined
  let mark = 0
  let sending: Promise<void> | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  let gone = false

  function tell(): void {
    if (floor && issue.value) day.value = floor.tell(clock.now())
  }
  watch(clock.second, tell)

  async function count(): Promise<void> {
    waiting.value = (await journal?.unsent())?.length ?? 0
  }

  function take(plan: RecordIssue): void {
    issue.value = plan
    newer.value = null
    floor?.open(plan, session.units, session.mayLead)
    tell()
  }

  /** Reads what others logged since, and the newest plan. */
  async function pull(): Promise<void> {
    const { data, error, response } = await api.GET('/api/jobs/{job}/events', {
      params: { path: { job }, query: { since: mark } },
    })
    if (!data) {
      if (response.status === 401) state.value = 'signed-out'
      else trouble.value = refusal(error, 'The record of this job cannot be read.')
      return
    }
    mark = data.mark
    await journal?.learn(data.events)
    floor?.add(data.events)
    if (data.issue > (issue.value?.number ?? 0) && data.issue > (newer.value?.number ?? 0)) {
      const { data: plan } = await api.GET('/api/jobs/{job}/issues/{number}', {
        params: { path: { job, number: 0 } },
      })
      if (plan) {
        await journal?.keepIssue(plan)
        if (day.value?.coats.some((c) => c.batches.some((b) => b.state !== 'waiting'))) newer.value = plan
        else take(plan)
      }
    }
    if (data.issue === 0)
      trouble.value =
        'No plan of this job was issued yet. An estimator or owner issues it from the page Days.'
    else trouble.value = ''
    tell()
  }

  /** Sends what waits, then reads what others logged; again later where there is no network. */
  function level(): Promise<void> {
    sending ??= (async () => {
      clearTimeout(timer)
      try {
        for (let unsent = await journal?.unsent(); unsent?.length; unsent = await journal?.unsent()) {
          const { data, error, response } = await api.POST('/api/jobs/{job}/events', {
            params: { path: { job } },
            body: { events: unsent.slice(0, SENT_AT_ONCE) },
          })
          if (!data) {
            state.value = response.status === 401 ? 'signed-out' : 'away'
            if (response.status !== 401) throw new Error(refusal(error, 'The record was not taken.'))
            return
          }
          const taken = new Set(data.taken)
          await journal?.learn(unsent.filter((e) => taken.has(e.id)))
          for (const r of data.refused) await journal?.refuse(r.id, r.text)
          await count()
        }
        refused.value = (await journal?.refused()) ?? []
        await pull()
        if (state.value !== 'signed-out') state.value = 'level'
        if (session.me) photos.value = await sendPhotos(session.me.id)
      } catch {
        state.value = 'away'
        if (!gone) timer = setTimeout(() => void level(), RETRY_MS)
      } finally {
        await count()
        sending = undefined
      }
    })()
    return sending
  }

  /** Logs what happened; on screen at once. Says why where that is not possible. */
  async function log(kind: RecordKind, task: string, body: RecordBody = {}): Promise<boolean> {
    const me = session.me
    if (!journal || !floor || !me || !issue.value) return false
    const rules = floor
    // A coat that was begun stays by the plan that it was begun on.
    const coat = task.split('/')[1]
    const on = issue.value.coats.find((c) => c.id === coat)?.issue ?? issue.value.number
    try {
      const event = await journal.append((device, number, before) =>
        rules.seal(
          {
            id: crypto.randomUUID(),
            issue: on,
            task,
            kind,
            at: new Date().toISOString(),
            behind: clock.behind.value / MILLIS,
            device,
            number,
            person: me.id,
            name: me.name,
            body,
          },
          before,
        ),
      )
      floor.add([event])
      last.value = kind === 'struck' ? null : event
      trouble.value = ''
      tell()
      waiting.value++
      if (kind === 'photo' || body.photo) photos.value++
      void (sending ?? Promise.resolve()).then(level)
      return true
    } catch (error) {
      trouble.value =
        error instanceof DOMException
          ? 'This device has no room left to keep what is logged. Free some space, then log it again; what is kept is not lost.'
          : String(error instanceof Error ? error.message : error)
      return false
    }
  }
  const strike = (event: string): Promise<boolean> => log('struck', '', { struck: event })

  const heard = useEventSource(`/api/jobs/${job}/events/changes`, [], {
    immediate: false,
    autoReconnect: true,
  })
  watch(heard.data, () => void (sending ?? Promise.resolve()).then(level))
  useEventListener(window, 'online', () => void level())

  async function begin(): Promise<void> {
    const me = session.me
    if (!me) return
    try {
      const [rules, kept] = await Promise.all([openFloor(), openJournal(me.id, job)])
      floor = rules
      journal = kept
      const plan = await journal.issue()
      floor.add(await journal.events())
      if (plan) take(plan)
      await count()
    } catch (error) {
      trouble.value = String(error instanceof Error ? error.message : error)
      return
    }
    await clock.measure().catch(() => undefined)
    await level()
    heard.open()
    void navigator.storage.persist()
  }
  watch(
    () => session.me?.id,
    () => void begin(),
    { immediate: true },
  )
  onScopeDispose(() => {
    gone = true
    clearTimeout(timer)
    floor?.end()
    floor = undefined
  })

  return {
    issue,
    day,
    newer,
    take: (): void => {
      if (newer.value) take(newer.value)
    },
    waiting,
    photos,
    state,
    trouble,
    refused,
    last,
    log,
    strike,
    /** Sends what waits and reads what others logged. */
    level,
    read: (kind: Kind, text: string) => floor?.read(kind, text) ?? { si: 0, echo: '' },
    clock,
    zone: computed(() => issue.value?.zone),
  }
}

export type DayAtJob = ReturnType<typeof useDay>
