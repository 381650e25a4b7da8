import { ref } from 'vue'
import { refusal } from './client'

type Send<T> = (
  file: Blob,
  signal: AbortSignal,
  progress: (share: number) => void,
) => Promise<{ data?: T; error?: unknown }>

/** Sends large files of a component one at a time: each tells how far it is and can be stopped. */
export function useSending<T>(send: Send<T>, words: { refused: string; away: string; stopped: string }) {
  const name = ref('')
  const busy = ref(false)
  const sent = ref(0)
  const trouble = ref('')
  let control = new AbortController()

  /** Sends a file; gives what the server answered, or none where it did not take it. */
  async function take(file: File): Promise<{ ok: boolean; data?: T }> {
    name.value = file.name
    trouble.value = ''
    busy.value = true
    sent.value = 0
    control = new AbortController()
    try {
      const { data, error } = await send(file, control.signal, (share) => (sent.value = share))
      if (error) trouble.value = refusal(error, words.refused)
      return { ok: !error, data }
    } catch {
      trouble.value = control.signal.aborted ? words.stopped : words.away
      return { ok: false }
    } finally {
      busy.value = false
    }
  }
  return { name, busy, sent, trouble, take, stop: (): void => control.abort() }
}
