import { useEventListener, useEventSource, useThrottleFn } from '@vueuse/core'
import { produce } from 'immer'
import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { api, refusal, type Line, type NewerSheet, type Plan, type PlanFile } from '../../api/client'
import { useSession } from '../../session/session'
import { useHistory } from './useHistory'
import { useSaving } from './useSaving'

const RETRY_MS = 1500
const REFRESH_MS = 300

/** One job being edited: every edit is here at once, saved and planned by the server, and can be undone. */
export function useJob(id: string) {
  const session = useSession()
  const file = shallowRef<PlanFile | null>(null)
  const plan = shallowRef<Plan | null>(null)
  const newer = shallowRef<NewerSheet[]>([])
  const missing = ref(false)
  /** Why the job cannot be opened. */
  const unopened = ref('')
  /** The job's line of figures before the last edit. */
  const before = shallowRef<Line | null>(null)
  const saving = useSaving(id, { file, plan, newer })
  const history = useHistory(file)
  let timer: ReturnType<typeof setTimeout> | undefined

  async function load(): Promise<void> {
    try {
      const { data, error, response } = await api.GET('/api/jobs/{job}', { params: { path: { job: id } } })
      missing.value = response.status === 404
      unopened.value = ''
      if (!data) {
        if (response.status === 401) saving.state.value = 'signed-out'
        else if (!missing.value) {
          unopened.value = refusal(error, 'The server could not open this job.')
          if (response.status >= 500) timer = setTimeout(() => void load(), RETRY_MS)
        }
        return
      }
      if (!file.value) await saving.forget(data.revision)
      if (saving.unsent()) return // what is being edited comes first
      const theirs = data.revision !== saving.revision()
      saving.hold(data)
      if (theirs) {
        file.value = data.file
        history.forget()
      }
      saving.state.value = 'saved'
      if (await saving.resume()) history.forget()
      open()
    } catch {
      saving.state.value = 'away'
      timer = setTimeout(() => void load(), RETRY_MS)
    }
  }

  /** Changes the job. Edits with the same label in quick succession undo as one. */
  function edit(label: string, change: (file: PlanFile) => void): void {
    if (!file.value || !session.mayEdit) return
    const next = produce(file.value, (draft: PlanFile) => {
      change(draft)
    })
    if (next === file.value) return
    file.value = next
    if (history.note(label)) before.value = plan.value?.line ?? null
    saving.changed()
  }
  function move(by: () => void): void {
    before.value = plan.value?.line ?? null
    by()
    saving.changed()
  }

  /** Follows what others save and book, once nothing here is unsent. */
  const heard = useEventSource(`/api/jobs/${id}/changes`, [], { immediate: false, autoReconnect: true })
  let listening = false
  function open(): void {
    if (!listening) heard.open()
    listening = true
  }
  const refresh = useThrottleFn(load, REFRESH_MS, true)
  watch([heard.data, saving.state], ([version, state]) => {
    if (state === 'saved' && Number(version) > saving.version()) void refresh()
  })
  watch(
    () => session.reads,
    () => {
      if (saving.state.value === 'saved') void load()
    },
  )
  useEventListener(window, 'online', () => {
    if (saving.state.value === 'away') saving.retry()
  })
  useEventListener(window, 'beforeunload', (event) => {
    if (saving.unsent() && !saving.kept.value) event.preventDefault()
  })
  onScopeDispose(() => clearTimeout(timer))

  void load()
  return {
    file,
    plan,
    newer,
    before,
    missing,
    unopened,
    state: saving.state,
    trouble: saving.trouble,
    stale: saving.stale,
    kept: saving.kept,
    canUndo: history.canUndo,
    canRedo: history.canRedo,
    edit,
    undo: (): void => move(history.undo),
    redo: (): void => move(history.redo),
    settle: (choice: 'mine' | 'theirs' | 'combined'): void => {
      saving.settle(choice)
      history.forget()
    },
  }
}

export type JobEditor = ReturnType<typeof useJob>
