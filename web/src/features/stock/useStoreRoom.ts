import { ref, watch, type Ref } from 'vue'
import { api, type StockGroup } from '../../api/client'

/** What in stock the store room will harm by its forecast, in sentences; nothing where there is no weather service. */
export function useStoreRoom(groups: Ref<StockGroup[] | null>): Ref<string[]> {
  const harmed = ref<string[]>([])
  let begun = false
  watch(groups, async (all) => {
    if (begun || !all?.length) return
    begun = true
    const { data: standards } = await api.GET('/api/house')
    const room = standards?.house.store
    const { data: forecast } = await api.GET('/api/forecast', {
      params: { query: { latitude: room?.latitude, longitude: room?.longitude } },
    })
    if (!forecast?.hours.length) return
    const { data } = await api.POST('/api/stock-store', { body: { hours: forecast.hours } })
    harmed.value = (data ?? []).map((m) => m.text)
  })
  return harmed
}
