import { api, refusal } from '../api/client'
import type { Kind } from '../lib/units'

export type ReadKind = Exclude<Kind, 'count'>

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
