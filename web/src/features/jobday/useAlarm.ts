import { useEventListener, useLocalStorage, useWakeLock } from '@vueuse/core'
import { onScopeDispose, watch, type Ref } from 'vue'
import { useLamp } from './useLamp'

const TONE_HZ = 880
const TONE_S = 0.5
const BUZZ_MS = [300, 120, 300]

/**
 * Calls out what is new: warnings by a tone as loud as the device is set, vibration, lamp and words, what is to be
 * done now by words. Keeps the screen awake.
 */
export function useAlarm(warnings: Ref<string[]>, orders: Ref<string[]>) {
  const sound = useLocalStorage('nephelon.day.sound', true)
  const buzz = useLocalStorage('nephelon.day.buzz', true)
  const wake = useWakeLock()
  const lamp = useLamp()
  const voice = 'speechSynthesis' in window ? window.speechSynthesis : undefined
  let player: AudioContext | undefined

  function ring(): void {
    player ??= new AudioContext()
    const tone = player.createOscillator()
    const volume = player.createGain()
    tone.frequency.value = TONE_HZ
    volume.gain.setValueAtTime(1, player.currentTime)
    volume.gain.exponentialRampToValueAtTime(0.001, player.currentTime + TONE_S)
    tone.connect(volume).connect(player.destination)
    tone.start()
    tone.stop(player.currentTime + TONE_S)
  }
  /** Says it in the language of the page, by the device's own voice. */
  function say(words: string): void {
    if (!voice) return
    const spoken = new SpeechSynthesisUtterance(words)
    spoken.volume = 1
    spoken.lang = document.documentElement.lang
    voice.speak(spoken)
  }
  /** What a device says for a test: whoever stands at the pail should hear it. */
  function test(): void {
    ring()
    say('Can you hear me?')
  }
  /** A sentence without its minutes: it is not said again as they run. */
  const sense = (words: string): string => words.replaceAll(/\d[\d.]* (?:s|min|h)\b/g, '')
  let known = new Set<string>()
  watch([warnings, orders], ([warned, ordered]) => {
    const all = [...warned, ...ordered]
    const fresh = all.filter((w) => !known.has(sense(w)))
    known = new Set(all.map(sense))
    if (fresh.length === 0) return
    const warns = fresh.some((w) => warned.includes(w))
    if (sound.value) {
      if (warns) ring()
      fresh.forEach(say)
    }
    if (buzz.value && warns) navigator.vibrate?.(BUZZ_MS)
    if (warns) void lamp.flash()
  })
  watch(sound, (on) => {
    if (!on) voice?.cancel()
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
  onScopeDispose(() => {
    voice?.cancel()
    void player?.close()
  })
  return { sound, buzz, lamp, test }
}
