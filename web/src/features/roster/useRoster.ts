import { keyOf } from '../../drawing/roster'
import { computed, ref, shallowRef } from 'vue'
import {
  api,
  refusal,
  type Bookable,
  type Booked,
  type Opening,
  type RosterTry,
  type RosterView,
  type WayOut,
} from '../../api/client'
import { useTold } from '../../shell/told'
import { useHistory } from '../job/useHistory'

/** How long a plan is looked for: after a move, and when all is planned, s. */
const QUICK = 0.4
const LONG = 4
/** How often it is looked how far a plan has come, ms. */
const LOOK = 300

/** The roster as it stands, a proposal beside it, and what can be done with both. */
export function useRoster() {
  const stands = shallowRef<RosterView>()
  /** What is proposed; none where what stands is shown. */
  const proposal = shallowRef<RosterView>()
  const history = useHistory(proposal)
  const told = useTold()
  const ways = shallowRef<WayOut[]>()
  /** The change that the proposal rests on, where it is one that nobody made yet. */
  const tried = shallowRef<RosterTry>()
  const trouble = ref('')
  const busy = ref('')
  let running: AbortController | undefined

  const view = computed(() => proposal.value ?? stands.value)
  const tasks = computed(() => new Map((view.value?.tasks ?? []).map((t) => [keyOf(t), t])))
  const windows = computed(() => new Map((view.value?.windows ?? []).map((w) => [keyOf(w), w])))
  const broken = computed(() => new Map((view.value?.broken ?? []).map((b) => [keyOf(b), b.text])))
  const names = computed(() => new Map((view.value?.jobs ?? []).map((j) => [j.id, j.name])))

  async function asked<T>(
    doing: string,
    ask: (signal: AbortSignal) => Promise<{ data?: T; error?: unknown }>,
  ): Promise<T | undefined> {
    running?.abort()
    const own = new AbortController()
    running = own
    busy.value = doing
    try {
      const { data, error } = await ask(own.signal)
      if (own !== running) return undefined
      trouble.value = data === undefined ? refusal(error, 'The roster cannot be read.') : ''
      return data
    } catch {
      if (own === running)
        trouble.value = 'The server does not answer. Nothing was booked; try again when it is back.'
      return undefined
    } finally {
      if (own === running) busy.value = ''
    }
  }
  async function load(): Promise<void> {
    const data = await asked('Reading …', (signal) => api.GET('/api/roster', { signal }))
    if (!data) return
    stands.value = data
    discard()
  }
  /** Plans around what is pinned among some bookings, and proposes that. */
  async function plan(
    bookings: Booked[],
    label: string,
    seconds = LONG,
    attempt?: RosterTry,
  ): Promise<boolean> {
    const body = { bookings, seconds, try: attempt }
    const data = await asked('Planning …', (signal) =>
      seconds < LONG ? api.POST('/api/roster/plan', { body, signal }) : worked(body, signal),
    )
    if (!data) return false
    proposal.value = data
    tried.value = attempt
    history.note(label)
    return true
  }
  /**
   * Asks for a plan that takes its time, and waits for it: other plans of the company come first, and it goes
   * on where a server ends. Whoever no longer waits stops it.
   */
  async function worked(
    body: { bookings: Booked[]; seconds: number; try?: RosterTry },
    signal: AbortSignal,
  ): Promise<{ data?: RosterView; error?: unknown }> {
    const { data: asked, error } = await api.POST('/api/roster/runs', { body, signal })
    if (!asked) return { error }
    const path = { run: asked.id }
    signal.addEventListener('abort', () => void api.DELETE('/api/roster/runs/{run}', { params: { path } }))
    for (;;) {
      await new Promise((resolve) => setTimeout(resolve, LOOK))
      signal.throwIfAborted()
      const { data, error: lost } = await api.GET('/api/roster/runs/{run}', { params: { path }, signal })
      if (!data) return { error: lost }
      if (data.state === 'waiting')
        busy.value = data.untaken
          ? 'Waiting: nothing plans rosters now. Whoever runs Nephelon has to start “nephelon work”, or “nephelon serve” without “-work=false”.'
          : 'Waiting for another plan …'
      if (data.state === 'running' && data.progress)
        busy.value = `Planning … ${Math.round(data.progress.seconds)} of ${data.progress.of} s`
      if (data.state === 'done') return data.view ? { data: data.view } : { error: { detail: data.trouble } }
      if (data.state === 'stopped') return { error: { detail: 'The plan was stopped.' } }
    }
  }
  /** What would help what is shown, with its price. */
  async function lookForWays(): Promise<void> {
    const bookings = view.value?.bookings ?? []
    const data = await asked('Trying …', (signal) =>
      api.POST('/api/roster/ways', { body: { bookings }, signal }),
    )
    if (data) ways.value = data
  }
  /** Plans with a change of the company that is not kept. */
  const attempt = (of: WayOut): Promise<boolean> =>
    plan(view.value?.bookings ?? [], `try ${of.text}`, QUICK, of.try)
  const planAll = (): Promise<boolean> => plan(view.value?.bookings ?? [], 'plan')

  /** Puts a task elsewhere, pins it there, and plans the rest around it. */
  async function move(task: Bookable, crew: string, from: Date): Promise<boolean> {
    const now = view.value
    if (!now) return false
    const was = now.bookings.find((b) => keyOf(b) === keyOf(task))
    const length = was ? new Date(was.until).getTime() - new Date(was.from).getTime() : task.minutes * 60_000
    const moved: Booked = {
      job: task.job,
      task: task.id,
      crew,
      from: from.toISOString(),
      until: new Date(from.getTime() + length).toISOString(),
      pinned: true,
    }
    return plan(
      [...now.bookings.filter((b) => keyOf(b) !== keyOf(task)), moved],
      `move ${keyOf(task)}`,
      QUICK,
    )
  }
  /** Pins a booking where it is, or lets the plan move it. */
  function pin(task: Bookable, pinned: boolean): void {
    const now = view.value
    if (!now) return
    const bookings = now.bookings.map((b) => (keyOf(b) === keyOf(task) ? { ...b, pinned } : b))
    proposal.value = { ...now, bookings }
    history.note(`pin ${keyOf(task)}`)
  }
  /** Where a task may begin, and why not where it is asked for. */
  async function places(
    task: Bookable,
    at?: { crew: string; from: Date },
  ): Promise<{ places: Opening[]; why?: string } | undefined> {
    const { data } = await api.POST('/api/roster/places', {
      body: {
        bookings: view.value?.bookings ?? [],
        job: task.job,
        task: task.id,
        crew: at?.crew,
        from: at?.from.toISOString(),
      },
    })
    return data
  }
  /** Books what is proposed. */
  async function keep(): Promise<void> {
    const next = proposal.value
    if (!next) return
    const data = await asked('Booking …', (signal) =>
      api.PUT('/api/roster', { body: { revision: next.revision, bookings: next.bookings }, signal }),
    )
    if (!data) return
    stands.value = data
    discard()
  }
  /** Says of a booking that is over whether it was done; what was not is to be booked again. */
  async function settle(of: { job: string; task: string }, done: boolean): Promise<void> {
    const was = stands.value?.bookings.find((b) => keyOf(b) === keyOf(of))
    if (!was) return
    const kept = await rebook((all) =>
      all.flatMap((b) => (keyOf(b) !== keyOf(of) ? [b] : done ? [{ ...b, done }] : [])),
    )
    if (kept)
      told.say(done ? 'Counted as done.' : 'Taken off the roster.', () =>
        rebook((all) => [...all.filter((b) => keyOf(b) !== keyOf(of)), was]),
      )
  }
  /** Says of all bookings that are over and asked for that they were done. */
  async function settleAll(of: { job: string; task: string }[]): Promise<void> {
    const keys = new Set(of.map(keyOf))
    const set = (done: true | undefined): Promise<boolean> =>
      rebook((all) => all.map((b) => (keys.has(keyOf(b)) ? { ...b, done } : b)))
    if (await set(true)) told.say(`${keys.size} bookings counted as done.`, () => set(undefined))
  }
  /** Books what stands with a change, at once. */
  async function rebook(change: (all: Booked[]) => Booked[]): Promise<boolean> {
    const now = stands.value
    if (!now) return false
    const body = { revision: now.revision, bookings: change(now.bookings) }
    const data = await asked('Booking …', (signal) => api.PUT('/api/roster', { body, signal }))
    if (data) stands.value = data
    return data !== undefined
  }
  function discard(): void {
    proposal.value = tried.value = ways.value = undefined
    history.forget()
  }
  function stop(): void {
    running?.abort()
    running = undefined
    busy.value = ''
  }
  return {
    view,
    stands,
    proposal,
    tasks,
    windows,
    broken,
    names,
    trouble,
    busy,
    ways,
    tried,
    load,
    lookForWays,
    attempt,
    planAll,
    move,
    pin,
    places,
    keep,
    settle,
    settleAll,
    discard,
    stop,
    undo: history.undo,
    canUndo: history.canUndo,
  }
}
export type Roster = ReturnType<typeof useRoster>
