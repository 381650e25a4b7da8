import { produce } from 'immer'
import { ref, shallowRef } from 'vue'
import { differences } from '../../api/patch'
import { api, refusal, type JobLine, type JobState, type PlanFile } from '../../api/client'

/** Sends something worked out elsewhere into a job, as one save of its own. */
export function useSend() {
  const jobs = ref<JobLine[]>([])
  const job = shallowRef<JobState | null>(null)
  const told = ref('')
  const trouble = ref('')
  const away = 'The server does not answer. Send it again when it is back.'

  async function list(): Promise<void> {
    try {
      const { data, error } = await api.GET('/api/jobs', { params: { query: { q: '', archived: false } } })
      jobs.value = data ?? []
      trouble.value = data ? '' : refusal(error, 'The jobs cannot be read.')
    } catch {
      trouble.value = away
    }
  }

  async function open(id: string): Promise<void> {
    told.value = ''
    job.value = null
    if (!id) return
    try {
      const { data, error } = await api.GET('/api/jobs/{job}', { params: { path: { job: id } } })
      job.value = data ?? null
      trouble.value = data ? '' : refusal(error, 'This job cannot be read.')
    } catch {
      trouble.value = away
    }
  }

  async function send(change: (file: PlanFile) => void): Promise<void> {
    const into = job.value
    if (!into) return
    const file = produce(into.file, (draft: PlanFile) => {
      change(draft)
    })
    try {
      const { error, response } = await api.PATCH('/api/jobs/{job}', {
        params: { path: { job: into.id } },
        body: { base: into.revision, saveId: crypto.randomUUID(), patch: differences(into.file, file) },
      })
      if (response.ok) {
        trouble.value = ''
        await open(into.id)
        told.value = `Sent to ${into.file.job.name}.`
      } else if (response.status === 409) {
        await open(into.id)
        trouble.value = 'Someone else saved this job just now. Nothing was sent; send it again.'
      } else trouble.value = refusal(error, 'The job did not take it.')
    } catch {
      trouble.value = away
    }
  }

  return { jobs, job, told, trouble, list, open, send }
}
