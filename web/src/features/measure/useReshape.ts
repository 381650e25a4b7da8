import { useRequest } from '../../api/useRequest'
import { api, type Reshape } from '../../api/client'
import { taking } from '../../fields/useReader'
import { useDesk } from '../job/useEditor'

/** Changes of a floor's plan that the core works out: a wall's length, a bay, mirrored or turned. */
export function useReshape() {
  const desk = useDesk()
  const { trouble, ask } = useRequest()

  async function reshape(label: string, change: Reshape): Promise<void> {
    await taking(async () => {
      const { data } = await ask(
        api.POST('/api/reshape', {
          body: { surface: desk.surface.value, change },
        }),
        'The plan cannot be changed like that.',
        'The server does not answer; the plan stays as it is for now.',
      )
      if (!data) return
      desk.editSurface(label, (s) => {
        s.floor = data.floor
        s.layout = data.layout
        s.survey = data.survey
      })
    })
  }

  return { reshape, trouble }
}
