import { ref } from 'vue'
import { api, refusal, type JobState } from '../../api/client'

/** A job with its plan, read once for a page that prints. */
export function usePlannedJob(id: string) {
  const job = ref<JobState | null>(null)
  const trouble = ref('')

  async function load(): Promise<void> {
    try {
      const { data, error } = await api.GET('/api/jobs/{job}', { params: { path: { job: id } } })
      job.value = data ?? null
      if (!data) trouble.value = refusal(error, 'This job cannot be read.')
    } catch {
      trouble.value = 'The server does not answer. Try again when the connection is back.'
    }
  }
  void load()
  return { job, trouble }
}
