import { useRequest } from '../../api/useRequest'
import { produce } from 'immer'
import { ref, shallowRef } from 'vue'
import { differences } from '../../api/patch'
import { api, type JobLine, type JobState, type PlanFile } from '../../api/client'

/** Sends something worked out elsewhere into a job, as one save of its own. */
export function useSend() {
  const jobs = ref<JobLine[]>([])
  const job = shallowRef<JobState | null>(null)
  const told = ref('')
  const { trouble, ask } = useRequest()

  async function list(): Promise<void> {
    const { data } = await ask(
      api.GET('/api/jobs', { params: { query: { q: '', archived: false } } }),
      'The jobs cannot be read.',
    )
    if (data) jobs.value = data
  }

  async function open(id: string): Promise<void> {
    told.value = ''
    job.value = null
    if (!id) return
    const { data } = await ask(
      api.GET('/api/jobs/{job}', { params: { path: { job: id } } }),
      'This job cannot be read.',
    )
    if (data) job.value = data
  }

  async function send(change: (file: PlanFile) => void): Promise<void> {
    const into = job.value
    if (!into) return
    const file = produce(into.file, (draft: PlanFile) => {
      change(draft)
    })
    const { ok, status } = await ask(
      api.PATCH('/api/jobs/{job}', {
        params: { path: { job: into.id } },
        body: { base: into.revision, saveId: crypto.randomUUID(), patch: differences(into.file, file) },
      }),
      'The job was not changed.',
    )
    if (ok) {
      trouble.value = ''
      await open(into.id)
      told.value = `Sent to ${into.file.job.name}.`
    } else if (status === 409) {
      await open(into.id)
      trouble.value = 'Someone else saved this job just now. Nothing was sent; send it again.'
    }
  }

  return { jobs, job, told, trouble, list, open, send }
}
