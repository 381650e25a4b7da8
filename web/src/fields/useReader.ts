import { computed, ref } from 'vue'
import { api, refusal } from '../api/client'
import type { Kind } from '../session/units'

export type ReadKind = Exclude<Kind, 'count' | 'scale' | 'mark' | 'ratio'>

export type Reading = { ok: true; si: number; echo: string } | { ok: false; text: string }

/** Has the server understand a quantity as people write it. */
export async function readQuantity(kind: ReadKind, text: string): Promise<Reading> {
  try {
    const { data, error } = await api.POST('/api/read', { body: { kind, text } })
    if (data) return { ok: true, si: data.si, echo: data.echo }
    return { ok: false, text: refusal(error, 'This cannot be read.') }
  } catch {
    return { ok: false, text: 'The server does not answer, so this is not read yet. It stays here.' }
  }
}

const underWay = ref(0)

/** Whether something that was entered is still being read, and so is in no job yet. */
export const beingTaken = computed(() => underWay.value > 0)

/** Does what takes an entry over, and keeps it known as being taken until that is done. */
export async function taking(work: () => Promise<void>): Promise<void> {
  underWay.value++
  try {
    await work()
  } finally {
    underWay.value--
  }
}
