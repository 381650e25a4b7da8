import { useRequest } from '../../api/useRequest'
import { ref } from 'vue'
import { api, refusal, type House, type School } from '../../api/client'

const CONFLICT = 409

/** How the company works, edited: each change is kept at once, and can be taken back. */
export function useHouseEdits(kept?: () => void) {
  const house = ref<House>({})
  const schools = ref<School[]>([])
  const { trouble, ask } = useRequest()
  const state = ref<'' | 'saving' | 'saved'>('')
  const past = ref<House[]>([])
  const ready = ref(false)

  const revision = ref(0)

  async function load(): Promise<void> {
    const { data } = await ask(api.GET('/api/house'), 'The company standards cannot be read.')
    if (data) {
      house.value = data.house
      revision.value = data.revision
      schools.value = data.schools
    }
    ready.value = data !== undefined
  }
  void load()

  /** Each change is of what the one before left. */
  let last = Promise.resolve()
  function keep(next: House): Promise<void> {
    house.value = next
    state.value = 'saving'
    last = last.then(() => put(next))
    return last
  }
  async function put(next: House): Promise<void> {
    try {
      const { data, error, response } = await api.PUT('/api/house', {
        params: { query: { base: revision.value } },
        body: next,
      })
      state.value = data ? 'saved' : ''
      if (data) {
        revision.value = data.revision
        trouble.value = ''
        kept?.()
        return
      }
      // Somebody else's change stands: it is shown, and what was chosen here is chosen again.
      if (response.status === CONFLICT) {
        past.value = []
        await load()
      }
      trouble.value = refusal(error, 'This was not saved.')
    } catch {
      state.value = ''
      trouble.value = 'The server does not answer; choose again when it is back.'
    }
  }
  function change(by: Partial<House>): void {
    past.value = [...past.value, house.value]
    void keep({ ...house.value, ...by })
  }
  function undo(): void {
    const last = past.value.at(-1)
    past.value = past.value.slice(0, -1)
    if (last) void keep(last)
  }
  return { house, schools, trouble, state, past, ready, change, undo }
}
