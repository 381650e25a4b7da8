import { dataOf } from '../../api/useRequest'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, type House, type School } from '../../api/client'

/** How the company works, as jobs need it. */
export const useHouse = defineStore('house', () => {
  const house = ref<House>({})
  const schools = ref<School[]>([])

  async function load(): Promise<void> {
    // A job can be begun and read without it; its own methods stand in its file.
    const data = await dataOf(api.GET('/api/house'))
    if (!data) return
    house.value = data.house
    schools.value = data.schools
  }

  return { house, schools, load }
})
