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
  /** Takes the server's time from an answer that just came: corrects a clock that jumped. */
  heard: (time: string) => void
  /** Passes by the second. */
  second: Ref<number>
}

const ASKED = 3
/** An answer is at most so old; only a clock that is off by more is corrected by it, ms. */
const ANSWER_MS = 5000
/** By how much more than the time that passed the clock has to move to have jumped, ms. */
const JUMP_MS = 2000
const SECOND = 1000

export function useClock(memory: string): ServerClock {
  const behind = ref(Number(localStorage.getItem(memory)) || 0)
  const measured = ref(localStorage.getItem(memory) !== null)
  const now = (): number => Date.now() + behind.value
  const second = ref(now())
  let wall = Date.now()
  let steady = performance.now()
  useIntervalFn(() => {
    // A clock that is set while the page is open moves against the one that only runs on.
    const jumped = Math.abs(Date.now() - wall - (performance.now() - steady)) > JUMP_MS
    wall = Date.now()
    steady = performance.now()
    if (jumped) void measure().catch(() => undefined)
    second.value = now()
  }, SECOND)

  function set(ms: number): void {
    behind.value = Math.round(ms) + 0
    measured.value = true
    localStorage.setItem(memory, String(behind.value))
    second.value = now()
  }
  function heard(time: string): void {
    const off = new Date(time).getTime() - Date.now()
    if (Math.abs(off - behind.value) > ANSWER_MS) set(off)
  }

  async function measure(): Promise<void> {
    let quickest = Infinity
    let best = 0
    for (let n = 0; n < ASKED; n++) {
      const sent = Date.now()
      const { data } = await api.GET('/api/time')
      const took = Date.now() - sent
      if (!data || took >= quickest) continue
      quickest = took
      best = new Date(data.time).getTime() - (sent + took / 2)
    }
    if (quickest < Infinity) set(best)
  }
  return { behind, measured, now, measure, heard, second }
}
