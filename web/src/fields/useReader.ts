import { until } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
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

/** How long what was typed may take to be read, ms. */
const READ_MS = 2000

/** The labels of the fields whose entry cannot be read, by field. */
const unread = new Map<symbol, string>()

/** Notes that the entry of a field cannot be read, or that it stands no longer. */
export function noteUnread(field: symbol, label?: string): void {
  if (label === undefined) unread.delete(field)
  else unread.set(field, label)
}

/**
 * Waits until what was typed is read, so that what is sent is what is shown. Gives why
 * something is not, in words for a person; empty when all is.
 */
export async function entriesRead(): Promise<string> {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
  await until(beingTaken).toBe(false, { timeout: READ_MS })
  await nextTick()
  if (beingTaken.value) return 'The server does not answer, so the last entry is not read yet. Try again.'
  const [label] = unread.values()
  return label === undefined ? '' : `${label}: this entry is not read. Correct it, or press Esc in the field.`
}

/** Does what takes an entry over, and keeps it known as being taken until that is done. */
export async function taking(work: () => Promise<void>): Promise<void> {
  underWay.value++
  try {
    await work()
  } finally {
    underWay.value--
  }
}
