import { useEventListener, useLocalStorage, useWakeLock } from '@vueuse/core'
import { onScopeDispose, watch, type Ref } from 'vue'

const TONE_HZ = 880
const TONE_S = 0.5
const BUZZ_MS = [300, 120, 300]

/** Calls out what is new among the warnings, by sound and vibration as chosen; keeps the screen awake. */
export function useAlarm(warnings: Ref<string[]>) {
  const sound = useLocalStorage('nephelon.day.sound', false)
  const buzz = useLocalStorage('nephelon.day.buzz', true)
  const wake = useWakeLock()
  let player: AudioContext | undefined

  function ring(): void {
    player ??= new AudioContext()
    const tone = player.createOscillator()
    const volume = player.createGain()
    tone.frequency.value = TONE_HZ
    volume.gain.setValueAtTime(0.3, player.currentTime)
    volume.gain.exponentialRampToValueAtTime(0.001, player.currentTime + TONE_S)
    tone.connect(volume).connect(player.destination)
    tone.start()
    tone.stop(player.currentTime + TONE_S)
  }
  let known = new Set<string>()
  watch(warnings, (all) => {
    const fresh = all.some((w) => !known.has(w))
    known = new Set(all)
    if (!fresh) return
    if (sound.value) ring()
    if (buzz.value) navigator.vibrate?.(BUZZ_MS)
  })
  // A browser lets nothing sound or stay awake before the first touch.
  useEventListener(
    window,
    'pointerdown',
    () => {
      if (wake.isSupported.value) void wake.request('screen').catch(() => undefined)
    },
    { once: true },
  )
  onScopeDispose(() => void player?.close())
  return { sound, buzz, ring }
}
