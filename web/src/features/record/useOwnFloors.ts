import { shallowRef, type ShallowRef } from 'vue'
import { api, type Coat, type RecordLearnt } from '../../api/client'
import { dataOf } from '../../api/useRequest'
import { useSession } from '../../session/session'
import { kindOf } from '../job/blank'
import { useDesk } from '../job/useEditor'

const learnt = shallowRef<RecordLearnt[]>([])
let asked = ''

/** What own floors show, read once for all pages of a person. */
export function useOwnFloors(): ShallowRef<RecordLearnt[]> {
  const session = useSession()
  const me = session.me?.id ?? ''
  if (session.mayEdit && asked !== me) {
    asked = me
    void dataOf(api.GET('/api/learnt')).then((all) => (learnt.value = all ?? []))
  }
  return learnt
}

type Estimate = RecordLearnt['estimates'][number]

/** One thing that own floors show from enough jobs on to be offered. */
export const offeredOf = (l: RecordLearnt, what: Estimate['what']): Estimate | undefined =>
  l.estimates.find((e) => e.what === what && e.offered)

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
      const estimate = offeredOf(l, what)
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
