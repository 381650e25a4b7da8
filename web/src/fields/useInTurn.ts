import { useRafFn } from '@vueuse/core'
import { readonly, ref, type Ref } from 'vue'

/**
 * How many parts of a new page stand: the first at once, then one more each frame up to the
 * last, after which all do. So what is read first is there soon, and no part keeps the page
 * from answering.
 */
export function useInTurn(parts: number): Readonly<Ref<number>> {
  const standing = ref(1)
  const { pause } = useRafFn(() => {
    standing.value += 1
    if (standing.value < parts) return
    standing.value = Infinity
    pause()
  })
  return readonly(standing)
}
