import { shallowRef, type ShallowRef } from 'vue'
import { api, type RecordLearnt } from '../../api/client'
import { dataOf } from '../../api/useRequest'
import { useSession } from '../../session/session'

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
