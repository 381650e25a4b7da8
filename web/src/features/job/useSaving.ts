import { onScopeDispose, ref, shallowRef, type ShallowRef } from 'vue'
import {
  api,
  refusal,
  type JobState,
  type NewerSheet,
  type Plan,
  type PlanFile,
  type StaleSave,
} from '../../api/client'
import * as outbox from '../../api/outbox'
import { applied, differences } from '../../api/patch'
import { useSession } from '../../session/session'

export type SaveState = 'saved' | 'saving' | 'waiting' | 'away' | 'stale' | 'refused' | 'signed-out'

const GATHER_MS = 10
const RETRY_MS = 1500

/** Lets a request that was just made leave. */
const under = (): Promise<void> => new Promise((done) => setTimeout(done))

/** What of a job is edited, what follows from it, and the sheets that are newer. */
export interface Edited {
  file: ShallowRef<PlanFile | null>
  plan: ShallowRef<Plan | null>
  newer: ShallowRef<NewerSheet[]>
}

/**
 * Sends every edit of a job at once, as what it changed, one after the other, and
 * takes over what it moved; what is edited meanwhile goes together. Edits survive a lost server, a reload and a closed tab.
 */
export function useSaving(id: string, { file, plan, newer }: Edited) {
  const session = useSession()
  const state = ref<SaveState>('saved')
  const trouble = ref('')
  const stale = shallowRef<StaleSave | null>(null)
  /** Whether what is unsent would survive a reload. */
  const kept = ref(true)
  /** What the server has: a revision with its file, and the plan that it gave for it. */
  let known: { revision: number; version: number; tag: string; file: PlanFile; plan: Plan | null } | null =
    null
  let saveId = ''
  /** Saves since the last answer: the server may have taken one of them. */
  let unanswered: string[] = []
  /** Every save of this visit: one of them is never an earlier visit's. */
  const made = new Set<string>()
  let inFlight = false
  let timer: ReturnType<typeof setTimeout> | undefined
  let due = Infinity
  let storing = false
  let newest = false

  const me = (): string => session.me?.id ?? ''
  const unsent = (): boolean => saveId !== ''
  const revision = (): number => known?.revision ?? 0
  /** Saves and changes of bookings, counted: as its stream of changes tells them. */
  const version = (): number => known?.version ?? 0

  /** Takes over a job as the server has it. */
  function hold(job: Pick<JobState, 'revision' | 'version' | 'tag' | 'file' | 'plan' | 'newer'>): void {
    known = { revision: job.revision, version: job.version, tag: job.tag, file: job.file, plan: job.plan }
    plan.value = job.plan
    newer.value = job.newer
  }

  /** Lets go of an edit of an earlier visit that the server has taken, and that was saved over since. */
  async function forget(newest: number): Promise<void> {
    const left = await outbox.left(me(), id)
    if (!left) return
    try {
      const { base, saveId: sent, from, file: edited } = left
      const { data } = await api.PATCH('/api/jobs/{job}', {
        params: { path: { job: id } },
        body: { base, saveId: sent, patch: differences(from, edited) },
      })
      if (data && data.revision < newest) await outbox.drop(me(), id, sent)
    } catch {
      // It is taken up below, and waits for the server.
    }
  }

  /** Takes up what an earlier visit could not send. */
  async function resume(): Promise<boolean> {
    const left = await outbox.left(me(), id)
    if (!left || unsent() || made.has(left.saveId)) return false
    known = { revision: left.base, version: left.base, tag: '', file: left.from, plan: plan.value }
    file.value = left.file
    saveId = left.saveId
    unanswered = left.sent
    schedule(0)
    return true
  }

  /** Something was edited: it is kept here, and sent. */
  function changed(): void {
    saveId = crypto.randomUUID()
    made.add(saveId)
    void store()
    schedule(GATHER_MS)
  }

  /** One after the other, the newest only: a hand that drags edits faster than a device keeps. */
  async function store(): Promise<void> {
    newest = true
    if (storing) return
    storing = true
    while (newest && file.value && known && unsent()) {
      newest = false
      const keeping = saveId
      kept.value = await outbox.keep(me(), id, {
        base: known.revision,
        from: known.file,
        file: file.value,
        saveId: keeping,
        sent: [...unanswered],
      })
      if (!unsent()) await outbox.drop(me(), id, keeping) // sent while it was being kept
    }
    newest = storing = false
  }

  function schedule(delay: number): void {
    if (state.value === 'stale') return
    state.value = inFlight ? 'saving' : 'waiting'
    again(delay)
  }
  /** Edits that follow each other closely do not put off the save that is due. */
  function again(delay: number): void {
    const at = performance.now() + delay
    if (at >= due) return
    clearTimeout(timer)
    due = at
    timer = setTimeout(() => {
      due = Infinity
      void save()
    }, delay)
  }

  async function save(): Promise<void> {
    const sending = file.value
    if (!sending || !known || inFlight || !unsent()) return
    const sent = saveId
    const patch = differences(known.file, sending)
    if (patch.length === 0) return settled(sent)
    inFlight = true
    if (!unanswered.includes(sent)) unanswered.push(sent)
    state.value = 'saving'
    try {
      const { data, error, response } = await api.PATCH('/api/jobs/{job}', {
        params: { path: { job: id } },
        body: { base: known.revision, saveId: sent, tag: known.tag || undefined, patch },
      })
      inFlight = false
      if (!data) return refused(response.status, error)
      trouble.value = ''
      unanswered = []
      const tidied = data.tidied ? applied(sending, data.tidied) : sending
      known = {
        revision: data.revision,
        version: data.version,
        tag: data.tag,
        file: tidied,
        plan: data.plan ?? (known.plan && data.moved ? applied(known.plan, data.moved) : known.plan),
      }
      if (saveId === sent) {
        file.value = tidied
        settled(sent)
      } else {
        // What was edited meanwhile is under way before the answer is drawn, so that a dragged corner waits for one of
        // the two only.
        void store()
        void save()
        await under()
      }
      newer.value = data.newer
      plan.value = known.plan
    } catch {
      inFlight = false
      away()
    }
  }

  function away(): void {
    state.value = 'away'
    again(RETRY_MS)
  }

  function settled(sent: string): void {
    saveId = ''
    void outbox.drop(me(), id, sent)
    state.value = 'saved'
  }

  function refused(status: number, error: unknown): void {
    if (status === 409) conflicted(error as StaleSave)
    else if (status === 401) state.value = 'signed-out'
    else if (status >= 502 && status <= 504) away()
    else {
      trouble.value = refusal(error, 'The server rejected this change.')
      state.value = 'refused'
    }
  }

  /** A save whose answer was lost on the way back is no one else's. */
  function conflicted(conflict: StaleSave): void {
    if (unanswered.includes(conflict.saveId)) {
      hold(conflict.theirs)
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
    hold(conflict.theirs)
    if (choice === 'theirs') {
      file.value = conflict.theirs.file
      settled(saveId)
      return
    }
    if (choice === 'combined') file.value = conflict.combined
    changed()
  }

  onScopeDispose(() => {
    clearTimeout(timer)
    if (unsent() && state.value === 'waiting') void save()
  })

  return {
    state,
    trouble,
    stale,
    kept,
    hold,
    forget,
    resume,
    changed,
    settle,
    unsent,
    revision,
    version,
    retry: (): void => again(0),
  }
}
