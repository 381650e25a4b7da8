import { useEventListener, useThrottleFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { api, refusal, type NewerSheet, type Plan, type PlanFile, type StaleSave } from '../../api/client'
import { useSession } from '../people/session'

export type SaveState = 'saved' | 'saving' | 'waiting' | 'away' | 'stale' | 'refused' | 'signed-out'

interface Pending {
  base: number
  saveId: string
  file: PlanFile
}

const SETTLE_MS = 120
const COALESCE_MS = 900
const RETRY_MS = 1500
const UNDO_DEPTH = 200

const clone = (file: PlanFile): PlanFile => JSON.parse(JSON.stringify(file)) as PlanFile
const pendingKey = (id: string): string => `nephelon.pending.${id}`

function usesMedium(file: PlanFile, id: string): boolean {
  return file.job.surfaces.some((s) =>
    s.coats.some((c) =>
      [
        c.scatter?.medium,
        c.grit?.medium,
        c.pigment?.medium,
        ...(c.colours?.colours ?? []).map((k) => k.medium),
      ].includes(id),
    ),
  )
}

/**
 * One job being edited: every edit is kept here at once, saved and planned by
 * the server as soon as it rests, and can be undone. Edits survive a lost
 * server and a reload.
 */
export function useJob(id: string) {
  const session = useSession()
  const file = shallowRef<PlanFile | null>(null)
  const plan = shallowRef<Plan | null>(null)
  const revision = ref(0)
  const state = ref<SaveState>('saved')
  const trouble = ref('')
  const stale = shallowRef<StaleSave | null>(null)
  const missing = ref(false)
  const newer = shallowRef<NewerSheet[]>([])
  const past = shallowRef<PlanFile[]>([])
  const future = shallowRef<PlanFile[]>([])
  let lastLabel = ''
  let lastAt = 0
  let saveId = ''
  let lastSent = ''
  let timer: ReturnType<typeof setTimeout> | undefined
  let inFlight = false
  let source: EventSource | undefined

  const dirty = computed(() => saveId !== '' && state.value !== 'saved')

  async function load(): Promise<void> {
    try {
      const { data, response } = await api.GET('/api/jobs/{job}', { params: { path: { job: id } } })
      if (!data) {
        if (response.status === 401) state.value = 'signed-out'
        else missing.value = true
        return
      }
      if (data.revision !== revision.value) forget()
      revision.value = data.revision
      file.value = data.file
      plan.value = data.plan
      newer.value = data.newer
      state.value = 'saved'
      resume()
      if (!source) listen()
    } catch {
      state.value = 'away'
      timer = setTimeout(() => void load(), RETRY_MS)
    }
  }

  /** Undoing past someone else's save would silently take their work away. */
  function forget(): void {
    past.value = []
    future.value = []
    lastLabel = ''
  }

  /** Takes up edits that an earlier visit could not send. */
  function resume(): void {
    const kept = localStorage.getItem(pendingKey(id))
    if (!kept) return
    const pending = JSON.parse(kept) as Pending
    file.value = pending.file
    revision.value = pending.base
    saveId = pending.saveId
    schedule(0)
  }

  function keep(): void {
    if (!file.value) return
    const pending: Pending = { base: revision.value, saveId, file: file.value }
    localStorage.setItem(pendingKey(id), JSON.stringify(pending))
  }

  /** Changes the job. Edits with the same label in quick succession undo as one. */
  function edit(label: string, change: (file: PlanFile) => void): void {
    if (!file.value || !session.mayEdit) return
    const now = Date.now()
    if (label !== lastLabel || now - lastAt > COALESCE_MS) {
      past.value = [...past.value.slice(-UNDO_DEPTH), clone(file.value)]
    }
    lastLabel = label
    lastAt = now
    future.value = []
    const next = clone(file.value)
    change(next)
    put(next)
  }

  function put(next: PlanFile): void {
    const used = new Set(next.job.surfaces.flatMap((s) => s.coats.map((c) => c.product)))
    next.products = next.products.filter((p) => used.has(p.id))
    next.media = next.media?.filter((m) => m.kind === 'tool' || usesMedium(next, m.id))
    file.value = next
    saveId = crypto.randomUUID()
    keep()
    schedule(SETTLE_MS)
  }

  function step(from: typeof past, to: typeof past): void {
    const next = from.value.at(-1)
    if (!next || !file.value) return
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, clone(file.value)]
    lastLabel = ''
    put(clone(next))
  }
  const undo = (): void => step(past, future)
  const redo = (): void => step(future, past)

  function schedule(delay: number): void {
    if (state.value === 'stale') return
    state.value = inFlight ? 'saving' : 'waiting'
    clearTimeout(timer)
    timer = setTimeout(() => void save(), delay)
  }

  async function save(): Promise<void> {
    if (!file.value || inFlight || saveId === '') return
    inFlight = true
    state.value = 'saving'
    const sent = saveId
    try {
      const { data, error, response } = await api.PUT('/api/jobs/{job}', {
        params: { path: { job: id } },
        body: { base: revision.value, saveId: sent, file: file.value },
      })
      inFlight = false
      if (data) {
        revision.value = data.revision
        plan.value = data.plan
        trouble.value = ''
        if (saveId === sent) settled()
        else {
          keep()
          schedule(0)
        }
      } else refused(response.status, error)
    } catch {
      inFlight = false
      lastSent = sent
      state.value = 'away'
      clearTimeout(timer)
      timer = setTimeout(() => void save(), RETRY_MS)
    }
  }

  function settled(): void {
    saveId = ''
    localStorage.removeItem(pendingKey(id))
    state.value = 'saved'
  }

  function refused(status: number, error: unknown): void {
    switch (status) {
      case 409:
        conflicted(error as StaleSave)
        break
      case 401:
        state.value = 'signed-out'
        break
      case 502:
      case 503:
      case 504:
        state.value = 'away'
        timer = setTimeout(() => void save(), RETRY_MS)
        break
      default:
        trouble.value = refusal(error, 'The server did not take this change.')
        state.value = 'refused'
    }
  }

  /** A save whose answer was lost on the way back is no one else's. */
  function conflicted(conflict: StaleSave): void {
    if (conflict.saveId === lastSent) {
      revision.value = conflict.theirs.revision
      schedule(0)
      return
    }
    stale.value = conflict
    state.value = 'stale'
  }

  /** Settles a stale save by what the person chose to stand. */
  function settle(choice: 'mine' | 'theirs' | 'combined'): void {
    const conflict = stale.value
    if (!conflict || !file.value) return
    stale.value = null
    state.value = 'saved'
    revision.value = conflict.theirs.revision
    forget()
    if (choice === 'theirs') {
      file.value = conflict.theirs.file
      plan.value = conflict.theirs.plan
      settled()
    } else put(clone(choice === 'mine' ? file.value : conflict.combined))
  }

  /** Follows what others save while nothing here is unsent. */
  function listen(): void {
    source = new EventSource(`/api/jobs/${id}/changes`)
    source.onmessage = (event: MessageEvent<string>) => {
      if (Number(event.data) > revision.value && state.value === 'saved') void refresh()
    }
  }

  const refresh = useThrottleFn(load, 300, true)

  watch(
    () => session.units,
    () => {
      if (state.value === 'saved') void load()
    },
  )
  useEventListener(window, 'online', () => {
    if (state.value === 'away') void save()
  })
  useEventListener(window, 'beforeunload', (event) => {
    if (dirty.value && state.value !== 'away') event.preventDefault()
  })
  onScopeDispose(() => {
    source?.close()
    clearTimeout(timer)
    if (saveId !== '' && state.value === 'waiting') void save()
  })

  void load()
  return {
    file,
    plan,
    state,
    trouble,
    stale,
    missing,
    newer,
    canUndo: computed(() => past.value.length > 0),
    canRedo: computed(() => future.value.length > 0),
    edit,
    undo,
    redo,
    settle,
    retry: (): void => schedule(0),
  }
}

export type JobEditor = ReturnType<typeof useJob>
