import { ref } from 'vue'
import { api, refusal, type Reshape } from '../../api/client'
import { taking } from '../../fields/useReader'
import { useDesk } from '../job/useEditor'

/** Changes of a floor's plan that the core works out: a wall's length, a bay, mirrored or turned. */
export function useReshape() {
  const desk = useDesk()
  const trouble = ref('')

  async function reshape(label: string, change: Reshape): Promise<void> {
    await taking(async () => {
      try {
        const { data, error } = await api.POST('/api/reshape', {
          body: { surface: desk.surface.value, change },
        })
        trouble.value = data ? '' : refusal(error, 'The plan cannot be changed like that.')
        if (!data) return
        desk.editSurface(label, (s) => {
          s.floor = data.floor
          s.layout = data.layout
          s.survey = data.survey
        })
      } catch {
        trouble.value = 'The server does not answer; the plan stays as it is for now.'
      }
    })
  }

  return { reshape, trouble }
}
