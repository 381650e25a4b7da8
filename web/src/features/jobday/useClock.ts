import { useIntervalFn } from '@vueuse/core'
import { ref, type Ref } from 'vue'
import { api } from '../../api/client'

/** How far this device's clock is behind that of the server, ms; measured by the quickest of some answers. */
export interface ServerClock {
  behind: Ref<number>
  measured: Ref<boolean>
  /** The time by the clock of the server. */
  now: () => number
  measure: () => Promise<void>
  /** Passes by the second. */
  second: Ref<number>
}

const ASKED = 3
const SECOND = 1000

export function useClock(memory: string): ServerClock {
  const behind = ref(Number(localStorage.getItem(memory)) || 0)
  const measured = ref(localStorage.getItem(memory) !== null)
  const now = (): number => Date.now() + behind.value
  const second = ref(now())
  useIntervalFn(() => (second.value = now()), SECOND)

  async function measure(): Promise<void> {
    let quickest = Infinity
    for (let n = 0; n < ASKED; n++) {
      const sent = Date.now()
      const { data } = await api.GET('/api/time')
      const took = Date.now() - sent
      if (!data || took >= quickest) continue
      quickest = took
      behind.value = Math.round(new Date(data.time).getTime() - (sent + took / 2))
    }
    if (quickest === Infinity) return
    measured.value = true
    localStorage.setItem(memory, String(behind.value))
    second.value = now()
  }
  return { behind, measured, now, measure, second }
}
