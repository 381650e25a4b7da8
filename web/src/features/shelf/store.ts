import { useRequest } from '../../api/useRequest'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, type Medium, type ShelfLine } from '../../api/client'
import { useSession } from '../../session/session'

const LIMIT = 300

export interface ShelfQuery {
  q?: string
  kind?: string[]
  chemistry?: string
  archived?: boolean
}

/** Whether a medium goes with every job: tools, consumables and what preparation takes. */
export const isOwnTool = (m: Medium): boolean => m.kind === 'tool' || m.kind === 'supply'

/** The company's shelf as one person searches it. */
export const useShelf = defineStore('shelf', () => {
  const lines = ref<ShelfLine[]>([])
  const media = ref<Medium[]>([])
  const total = ref(0)
  const { trouble, ask } = useRequest()
  const ready = ref(false)
  const session = useSession()
  let newest = 0

  async function load(query: ShelfQuery = {}): Promise<void> {
    if (!session.mayEdit) return // a hand reads no sheets but those of jobs
    newest += 1
    const mine = newest
    const { data } = await ask(
      api.GET('/api/shelf', {
        params: { query: { ...query, media: true, stock: true, limit: LIMIT } },
      }),
      'The shelf cannot be read.',
      'The server does not answer. The shelf will be read when it is back.',
    )
    if (mine !== newest) return
    if (data) {
      lines.value = data.sheets
      media.value = data.media
      total.value = data.total
    }
    ready.value = ready.value || data !== undefined
  }

  return { lines, media, total, trouble, ready, load }
})
