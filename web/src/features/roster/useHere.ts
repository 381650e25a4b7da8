import { useDebounceFn } from '@vueuse/core'
import { ref, type Ref } from 'vue'
import { api, type Bookable, type Booked, type PourHour } from '../../api/client'
import { dataOf } from '../../api/useRequest'

/** How long a hand rests before it is asked what becomes of a coat there, ms. */
const REST_MS = 150

/** What becomes of a pour where it is held over the roster, before it is let go. */
export interface Here {
  hour: Ref<PourHour | undefined>
  /** Nothing is known of the pour there, because the plan cannot time it. */
  untimed: Ref<boolean>
  over: (task: Bookable, booked: Booked | undefined, from: Date) => void
  clear: () => void
}
export function useHere(): Here {
  const hour = ref<PourHour>()
  const untimed = ref(false)
  let asked = 0
  const look = useDebounceFn(async (own: number, job: string, coat: string, at: string) => {
    const data = await dataOf(
      api.POST('/api/jobs/{job}/pour/hours', { params: { path: { job } }, body: { coat, at } }),
    )
    if (own !== asked) return
    hour.value = data?.[0]
    untimed.value = data?.length === 0
  }, REST_MS)
  return {
    hour,
    untimed,
    over(task, booked, from) {
      const coat = /^coat\/(.+)\/pour$/.exec(task.id)?.[1]
      if (!coat || !booked) return
      // Setting up comes before the first kit.
      const first = booked.pours?.[0]?.from
      const set = first ? new Date(first).getTime() - new Date(booked.from).getTime() : 0
      const id = coat.replaceAll('~1', '/').replaceAll('~0', '~')
      void look(++asked, task.job, id, new Date(from.getTime() + set).toISOString())
    },
    clear() {
      asked++
      hour.value = undefined
      untimed.value = false
    },
  }
}
