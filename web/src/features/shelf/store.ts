import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, refusal, type Medium, type ShelfLine } from '../../api/client'
import { useSession } from '../people/session'

const LIMIT = 60

export interface ShelfQuery {
  q?: string
  kind?: string[]
  chemistry?: string
  archived?: boolean
}

/** The company's shelf as one person searches it. */
export const useShelf = defineStore('shelf', () => {
  const lines = ref<ShelfLine[]>([])
  const media = ref<Medium[]>([])
  const total = ref(0)
  const trouble = ref('')
  const ready = ref(false)
  const session = useSession()
  let newest = 0

  async function load(query: ShelfQuery = {}): Promise<void> {
    if (!session.mayEdit) return // a hand reads no sheets but those of jobs
    newest += 1
    const mine = newest
    try {
      const { data, error } = await api.GET('/api/shelf', {
        params: { query: { ...query, media: true, limit: LIMIT } },
      })
      if (mine !== newest) return
      if (data) {
        lines.value = data.sheets
        media.value = data.media
        total.value = data.total
      }
      trouble.value = data ? '' : refusal(error, 'The shelf cannot be read.')
      ready.value = ready.value || data !== undefined
    } catch {
      trouble.value = 'The server does not answer. The shelf will be read when it is back.'
    }
  }

  return { lines, media, total, trouble, ready, load }
})
