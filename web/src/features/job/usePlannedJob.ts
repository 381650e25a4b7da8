import { ref } from 'vue'
import { api, refusal, type Issues, type JobState } from '../../api/client'

/** A job with its plan, read once for a page that prints. */
export function usePlannedJob(id: string) {
  const job = ref<JobState | null>(null)
  const trouble = ref('')
  /** The plans that were issued of it. */
  const issues = ref<Issues>()

  async function load(): Promise<void> {
    try {
      const params = { path: { job: id } }
      const [{ data, error }, issued] = await Promise.all([
        api.GET('/api/jobs/{job}', { params }),
        api.GET('/api/jobs/{job}/issues', { params }),
      ])
      issues.value = issued.data
      job.value = data ?? null
      if (!data) trouble.value = refusal(error, 'This job cannot be read.')
    } catch {
      trouble.value = 'The server does not answer. Try again when the connection is back.'
    }
  }
  void load()
  return { job, trouble, issues }
}
