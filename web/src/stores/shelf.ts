import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, refusal, type Product } from '../api/client'

/** The company's data sheets. */
export const useShelf = defineStore('shelf', () => {
  const products = ref<Product[]>([])
  const trouble = ref('')
  const ready = ref(false)

  async function load(): Promise<void> {
    try {
      const { data, error } = await api.GET('/api/shelf')
      if (data) products.value = data
      trouble.value = data ? '' : refusal(error, 'The shelf cannot be read.')
      ready.value = data !== undefined
    } catch {
      trouble.value = 'The server does not answer. The shelf will be read when it is back.'
    }
  }

  return { products, trouble, ready, load }
})
