import { until, useBroadcastChannel, useEventListener, useEventSource, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, onScopeDispose, ref, shallowRef, watch } from 'vue'
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
import { dataOf } from '../../api/useRequest'
import type { Kind } from '../../session/units'
import { useSession } from '../../session/session'
import { sendPhotos } from '../../record/photos'
import { useClock } from './useClock'

const RETRY_MS = 2000
const SENT_AT_ONCE = 500
/** How long a touch waits for the day to be opened, ms. */
const READY_MS = 20_000
const MILLIS = 1000
/** Entries refused by a clock that is off are sent again with one that is off by this less, ms. */
const WORTH_CORRECTING_MS = 1000
/** The field that a refusal names where the clock of a device is wrong. */
const CLOCK_FIELD = 'at:'

/** What changes the plan. */
const CHANGING: RecordKind[] = ['sized', 'ordered', 'tinted', 'gone', 'counted', 'struck']

/** Reports whether a number among the values of an entry could not be read from its field. */
function unreadable(body: RecordBody): boolean {
  return Object.values(body)
    .flat()
    .some((v) => typeof v === 'number' && Number.isNaN(v))
}
/** A refusal without the name of the field that it begins with. */
export function plainWords(text: string): string {
  const words = text.replace(/^[\w.]+: /, '')
  return words.charAt(0).toUpperCase() + words.slice(1)
}

/**
 * A day at a job: every touch is kept on this device first, told at once, and sent when
 * there is a network. What others log comes in as it is sent.
 */
export function useDay(job: string) {
  const session = useSession()
  const clock = useClock('nephelon.behind')
  /** The plan that is shown, with what was decided otherwise since it was issued. */
  const issue = shallowRef<RecordIssue | null>(null)
  const day = shallowRef<RecordDay | null>(null)
  /** A newer plan than the one shown, where one was issued. */
  const newer = shallowRef<RecordIssue | null>(null)
  const waiting = ref(0)
  /** Photographs that wait to be sent. */
  const photos = ref(0)
  const state = ref<'reading' | 'level' | 'away' | 'held' | 'signed-out'>('reading')
  const trouble = ref('')
  const refused = shallowRef<{ event: RecordEvent; text: string }[]>([])
  /** What was logged on this device last, so that it can be taken back. */
  const last = shallowRef<RecordEvent | null>(null)
  let floor: Floor | undefined
  let issued: RecordIssue | undefined
  /** The number of the plan that the rules on this device are open with; before that, nothing is logged. */
  const opened = ref(0)
  let journal: Journal | undefined
  let mark = 0
  let sending: Promise<void> | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  let gone = false

  function tell(): void {
    if (floor && opened.value) day.value = floor.tell(clock.now())
  }
  watch(clock.second, tell)

  async function count(): Promise<void> {
    waiting.value = (await journal?.unsent())?.length ?? 0
  }

  function take(plan: RecordIssue): void {
    issued = plan
    newer.value = null
    floor?.open(plan, session.reads, session.mayLead)
    issue.value = floor?.plan() ?? plan
    opened.value = plan.number
    tell()
  }

  /** Takes events, and shows the plan as they change it. */
  function add(events: RecordEvent[]): void {
    floor?.add(events)
    if (floor && opened.value && events.some((e) => CHANGING.includes(e.kind))) issue.value = floor.plan()
  }

  /** Shows what this device keeps, after events in it were made anew. */
  async function reload(): Promise<void> {
    if (!floor || !journal) return
    floor.clear()
    add(await journal.events())
    tell()
  }

  /**
   * Makes events anew that were refused because this device's clock was off. Reports whether
   * they are worth sending again.
   */
  async function correct(ids: string[]): Promise<boolean> {
    const rules = floor
    if (!rules || !journal || ids.length === 0) return false
    await clock.measure()
    const behind = clock.behind.value
    const corrected = await journal.correct(ids, (event, before) =>
      Math.abs(event.behind * MILLIS - behind) < WORTH_CORRECTING_MS
        ? undefined
        : rules.seal({ ...event, behind: behind / MILLIS }, before),
    )
    if (corrected) await reload()
    return corrected
  }

  /** What does not fit between the log that the server shows and the head that this device keeps. */
  const forked = ref('')
  let reading = ''
  /** Says why the record is not read; what was said of an entry stays when it is. */
  function tellReading(text: string): void {
    if (text || trouble.value === reading) trouble.value = text
    reading = text
  }

  /** Head of the company's log that this device keeps: what the server shows later must continue it. */
  const head = useLocalStorage(() => `nephelon.log.${session.me?.id ?? ''}`, '')
  const sizeOf = (note: string): number => Number(note.split('\n')[1] ?? 0)
  function follow(kept: string, newer: string | undefined, proof: string[]): void {
    if (!newer || !floor || kept !== head.value) return // another tab has a newer one
    try {
      if (kept) floor.follow(kept, newer, proof)
      head.value = newer
      forked.value = ''
    } catch (error) {
      forked.value = keeping(error)
    }
  }

  /** Reads what others logged since, and the newest plan. */
  async function pull(): Promise<void> {
    const kept = head.value
    const { data, error, response } = await api.GET('/api/jobs/{job}/events', {
      params: { path: { job }, query: { since: mark, head: sizeOf(kept) } },
    })
    if (!data) {
      if (response.status === 401) state.value = 'signed-out'
      else tellReading(refusal(error, 'The record of this job cannot be read.'))
      return
    }
    clock.heard(data.time)
    mark = data.mark
    follow(kept, data.head, data.proof)
    await journal?.learn(data.events)
    add(data.events)
    if (data.issue > opened.value && data.issue > (newer.value?.number ?? 0)) {
      const { data: plan } = await api.GET('/api/jobs/{job}/issues/{number}', {
        params: { path: { job, number: 0 } },
      })
      if (plan) {
        await journal?.keepIssue(plan)
        const begun = day.value?.coats.some((c) => c.batches.some((b) => b.state !== 'waiting'))
        if (opened.value && begun) newer.value = plan
        else take(plan)
      }
    }
    tellReading(
      data.issue === 0
        ? 'No plan of this job was issued yet. An estimator or owner issues it from the page Days.'
        : '',
    )
    tell()
  }

  /** Sends what waits, then reads what others logged; again later where there is no network. */
  function level(): Promise<void> {
    sending ??= (async () => {
      clearTimeout(timer)
      let held = ''
      try {
        for (let unsent = await journal?.unsent(); unsent?.length; unsent = await journal?.unsent()) {
          const { data, error, response } = await api.POST('/api/jobs/{job}/events', {
            params: { path: { job } },
            body: { events: unsent.slice(0, SENT_AT_ONCE) },
          })
          if (!data) {
            if (response.status === 401) {
              state.value = 'signed-out'
              return
            }
            held = refusal(error, 'The server is not accepting entries.')
            throw new Error(held)
          }
          const taken = new Set(data.taken)
          await journal?.learn(unsent.filter((e) => taken.has(e.id)))
          for (const id of taken) pending.delete(id)
          clock.heard(data.time)
          const early = data.refused.filter((r) => r.text.startsWith(CLOCK_FIELD)).map((r) => r.id)
          const again = await correct(early)
          for (const r of data.refused)
            if (!again || !early.includes(r.id)) await journal?.refuse(r.id, r.text)
          await count()
        }
        refused.value = (await journal?.refused()) ?? []
        await pull()
        if (state.value !== 'signed-out') state.value = 'level'
        if (session.me) photos.value = await sendPhotos(session.me.id)
      } catch {
        state.value = held ? 'held' : 'away'
        if (held) tellReading(`${held} What was logged is kept on this device.`)
        if (!gone) timer = setTimeout(() => void level(), RETRY_MS)
      } finally {
        await count()
        sending = undefined
      }
    })()
    return sending
  }
  /** The same, with what was logged a moment ago: what is under way may be past sending already. */
  function levelAnew(): Promise<void> {
    return (sending ?? Promise.resolve()).then(level)
  }

  /** Entries of this page that are not sent yet, in case what the device keeps is cleared. */
  const pending = new Map<string, RecordEvent>()

  /** Keeps an entry; where what this device kept was cleared, keeps it anew with what waited. */
  async function appended(
    make: (device: string, number: number, before: string) => RecordEvent,
    person: string,
  ): Promise<RecordEvent> {
    const append = async (): Promise<RecordEvent> => {
      if (!journal) throw new Error('Nothing is kept on this device yet.')
      return journal.append(make)
    }
    const event = await append().catch(async (error: unknown) => {
      if (!(error instanceof DOMException) || error.name === 'QuotaExceededError') throw error
      journal = await openJournal(person, job)
      if (issued) await journal.keepIssue(issued)
      await journal.keep([...pending.values()])
      return append()
    })
    pending.set(event.id, event)
    return event
  }

  /** Says why an entry could not be kept. */
  function keeping(error: unknown): string {
    if (!(error instanceof DOMException))
      return plainWords(error instanceof Error ? error.message : String(error))
    if (error.name === 'QuotaExceededError')
      return 'This device has no room left to keep what is logged. Free some space, then log it again; what is kept is not lost.'
    return 'What this device keeps was cleared or closed by the browser. Load this page again, then log it again.'
  }

  /** Waits for the rules of this day: a touch while they are still loading counts. */
  const ready = (): Promise<void> =>
    until(opened)
      .toBeTruthy({ timeout: READY_MS })
      .then(() => nextTick())

  /** Logs what happened; on screen at once. Says why where that is not possible. */
  async function log(kind: RecordKind, task: string, body: RecordBody = {}): Promise<boolean> {
    const touched = new Date().toISOString()
    await ready()
    const me = session.me
    if (!journal || !floor || !me || !issue.value) {
      trouble.value ||= 'The plan of this day is not loaded yet, so nothing was logged. Log it again.'
      return false
    }
    if (unreadable(body)) {
      trouble.value = 'A field cannot be read. Correct it, then log again; nothing was logged.'
      return false
    }
    const rules = floor
    // A coat that was begun stays by the plan that it was begun on.
    const coat = task.split('/')[1]
    const on = issue.value.coats.find((c) => c.id === coat)?.issue ?? issue.value.number
    const make = (device: string, number: number, before: string): RecordEvent =>
      rules.seal(
        {
          id: crypto.randomUUID(),
          issue: on,
          task,
          kind,
          at: touched,
          behind: clock.behind.value / MILLIS,
          device,
          number,
          person: me.id,
          name: me.name,
          body,
        },
        before,
      )
    try {
      const event = await appended(make, me.id)
      add([event])
      tabs.post(null)
      last.value = kind === 'struck' ? null : event
      trouble.value = ''
      tell()
      waiting.value++
      if (kind === 'photo' || body.photo) photos.value++
      void levelAnew()
      return true
    } catch (error) {
      trouble.value = keeping(error)
      return false
    }
  }
  const strike = (event: string): Promise<boolean> => log('struck', '', { struck: event })

  // What another tab of this device logs is heard at once, with or without a network.
  const tabs = useBroadcastChannel<null, null>({ name: `nephelon.day.${job}` })
  useEventListener(tabs.channel, 'message', () => {
    void (async () => {
      add((await journal?.events()) ?? [])
      tell()
      await count()
    })()
  })

  const heard = useEventSource(`/api/jobs/${job}/events/changes`, [], {
    immediate: false,
    autoReconnect: true,
  })
  watch(heard.data, () => void levelAnew())
  useEventListener(window, 'online', () => void level())

  /** Shows what the server tells while the rules are still on their way to this device. */
  async function preview(): Promise<void> {
    const params = { path: { job } }
    const [plan, told] = await Promise.all([
      dataOf(api.GET('/api/jobs/{job}/issues/{number}', { params: { path: { job, number: 0 } } })),
      dataOf(api.GET('/api/jobs/{job}/record', { params })),
    ])
    if (gone || opened.value || !plan || !told) return
    issue.value = plan
    day.value = told
  }

  async function begin(): Promise<void> {
    const me = session.me
    if (!me) return
    try {
      const rules = openFloor()
      journal = await openJournal(me.id, job)
      if ((await journal.unsent()).length === 0) void preview()
      floor = await rules
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

  function readByRules(kind: Kind, text: string): { si: number; echo: string } {
    return floor ? floor.read(kind, text) : notYet()
  }
  function notYet(): never {
    throw new Error('The rules of this day are still loading; this is read as soon as they are here.')
  }

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
    forked,
    refused,
    last,
    log,
    strike,
    /** Sends what waits and reads what others logged. */
    levelAnew,
    /** Reads a typed quantity; another function once the rules are loaded, so that a field reads its text again. */
    read: computed(() => (opened.value ? readByRules : notYet)),
    ready,
    /** What the label of a pack says. */
    label: (text: string, coat: string): ReturnType<Floor['label']> =>
      floor?.label(text, clock.now(), coat) ?? { code: text },
    /** Whether the reading of a test fits, with its limits in words; undefined where it cannot be judged. */
    judge: (task: string, value: number): ReturnType<Floor['judge']> | undefined => floor?.judge(task, value),
    /** Area of a coat, m², that is laid up to a place on its plan; undefined, and says why, where nobody can know. */
    laid: (coat: string, place: [number, number]): number | undefined => {
      try {
        return floor?.laid(coat, place, clock.now())
      } catch (error) {
        trouble.value = keeping(error)
        return undefined
      }
    },
    clock,
    zone: computed(() => issue.value?.zone),
  }
}

export type DayAtJob = ReturnType<typeof useDay>
