import { useLocalStorage } from '@vueuse/core'
import { onScopeDispose } from 'vue'

// The lamp is a constraint of cameras (W3C, MediaStream Image Capture) that TypeScript does not know yet.
declare global {
  interface MediaTrackSupportedConstraints {
    torch?: boolean
  }
  interface MediaTrackConstraintSet {
    torch?: boolean
  }
}
const FLASHES = 3
const FLASH_MS = 350

/** The lamp of the device beside its camera: off until it is asked for, since the browser asks for the camera. */
export function useLamp() {
  /** Whether the browser knows lamps at all. */
  const known = navigator.mediaDevices?.getSupportedConstraints().torch === true
  const lamp = useLocalStorage('nephelon.day.lamp', false)
  let track: MediaStreamTrack | undefined

  async function hold(): Promise<MediaStreamTrack | undefined> {
    if (track?.readyState === 'live') return track
    const stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } })
    track = stream.getVideoTracks()[0]
    return track
  }
  function release(): void {
    track?.stop()
    track = undefined
  }
  const wait = (ms: number): Promise<void> => new Promise((wake) => setTimeout(wake, ms))

  /** Flashes, where it is on; without a lamp, or without leave to use it, it is turned off. */
  async function flash(): Promise<void> {
    if (!known || !lamp.value) return
    try {
      const held = await hold()
      for (let n = 0; n < FLASHES; n++) {
        await held?.applyConstraints({ advanced: [{ torch: true }] })
        await wait(FLASH_MS)
        await held?.applyConstraints({ advanced: [{ torch: false }] })
        await wait(FLASH_MS)
      }
    } catch {
      lamp.value = false
    } finally {
      release()
    }
  }
  function turn(): void {
    lamp.value = !lamp.value
    void flash()
  }
  onScopeDispose(release)
  return { known, lamp, turn, flash }
}
