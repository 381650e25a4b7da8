import type { Coat, RecordLearnt } from '../../api/client'
import { kindOf } from '../job/blank'
import { useDesk } from '../job/useEditor'
import { useOwnFloors } from './useOwnFloors'

type Estimate = RecordLearnt['estimates'][number]

/**
 * What own floors show for a coat of the job at hand: of its product, laid in its way, on its kind of
 * surface, where that thing is shown by enough jobs.
 */
export function useCoatFloors(): (
  coat: Coat | undefined,
  what: Estimate['what'],
) => { floors: RecordLearnt; estimate: Estimate } | undefined {
  const desk = useDesk()
  const floors = useOwnFloors()
  return (coat, what) => {
    const method = coat?.own?.laying ?? desk.file.value.job.methods?.laying
    for (const l of floors.value) {
      const estimate = l.estimates.find((e) => e.what === what && e.offered)
      if (
        estimate &&
        l.product === coat?.product &&
        l.surface === kindOf(desk.surface.value) &&
        (!method || l.method === method)
      )
        return { floors: l, estimate }
    }
    return undefined
  }
}
