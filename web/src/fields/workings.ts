import { inject, provide, ref, type InjectionKey, type Ref } from 'vue'
import type { Working } from '../api/client'

const key: InjectionKey<Ref<Working[]>> = Symbol('workings')

/** Provides the workings that a figure was asked for, to the components inside; empty where none was. */
export function provideWorkings(): Ref<Working[]> {
  const shown = ref<Working[]>([])
  provide(key, shown)
  return shown
}

/** The workings that are shown, of the nearest component around that provides them. */
export function useWorkings(): Ref<Working[]> {
  const shown = inject(key)
  if (!shown) throw new Error('nothing around this component shows workings')
  return shown
}
