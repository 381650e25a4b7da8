import { usePreferredReducedMotion, useRafFn } from '@vueuse/core'
import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'
import type { PourPlan } from '../../api/client'
import { minuteTime } from '../../fields/clock'

export interface Hour {
  /** s from when the first batch is poured. */
  at: Ref<number>
  begin: ComputedRef<number>
  end: ComputedRef<number>
  playing: Ref<boolean>
  speed: Ref<number>
  /** The batch that is played again and again; 0 for the whole hour. */
  looped: Ref<number>
  play: () => void
  /** Goes to the next tight moment, or to the one before. */
  toTight: (step: 1 | -1) => void
  told: (s: number) => string
}

const MILLIS = 1000
const STEP = 30
const MINUTE = 60
const TWO = 2

/** The hour of a pour as it is gone through: where it stands, played, stepped and looped. */
export function useHour(
  pour: ComputedRef<PourPlan | undefined>,
  zone: ComputedRef<string | undefined>,
): Hour {
  const at = ref(0)
  const playing = ref(false)
  const speed = ref(STEP)
  const looped = ref(0)
  const motion = usePreferredReducedMotion()
  const run = computed(() => pour.value?.run)
  const loop = computed(() => run.value?.passages?.find((p) => p.batch === looped.value))
  const begin = computed(() => loop.value?.meets ?? run.value?.begins ?? 0)
  const end = computed(() => loop.value?.done ?? run.value?.ends ?? 0)
  let owed = 0

  const raf = useRafFn(
    ({ delta }) => {
      owed += (delta / MILLIS) * speed.value
      // Who asked for little motion sees a step twice a second of the clock, not a glide.
      const least = motion.value === 'reduce' ? speed.value / TWO : 0
      if (owed < least) return
      const next = at.value + owed
      owed = 0
      if (next < end.value) at.value = next
      else if (looped.value > 0) at.value = begin.value
      else {
        at.value = end.value
        playing.value = false
      }
    },
    { immediate: false },
  )
  watch(playing, (on) => (on ? raf.resume() : raf.pause()))
  watch([begin, end], () => {
    at.value = Math.min(Math.max(at.value, begin.value), end.value)
  })

  function told(s: number): string {
    const start = pour.value?.start
    if (start) return minuteTime(new Date(start).getTime() + s * MILLIS, zone.value)
    const minutes = Math.round(Math.abs(s) / MINUTE)
    return `${s < 0 && minutes > 0 ? '−' : ''}${Math.floor(minutes / MINUTE)}:${String(minutes % MINUTE).padStart(TWO, '0')}`
  }
  return {
    at,
    begin,
    end,
    playing,
    speed,
    looped,
    told,
    play() {
      if (!playing.value && at.value >= end.value - 1) at.value = begin.value
      playing.value = !playing.value
    },
    toTight(step) {
      const moments = (run.value?.moments ?? []).map((m) => m.at).toSorted((a, b) => a - b)
      const next =
        step > 0 ? moments.find((m) => m > at.value + 1) : moments.findLast((m) => m < at.value - 1)
      at.value = next ?? (step > 0 ? end.value : begin.value)
      playing.value = false
    },
  }
}
