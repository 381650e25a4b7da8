import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { PlanFile } from './client'

/** An edit that the server has not taken yet, as this device keeps it. */
export interface Unsent {
  /** The revision it was made from, and the file as it was then. */
  base: number
  from: PlanFile
  file: PlanFile
  saveId: string
  /** Saves since the last answer: the server may have taken one of them. */
  sent: string[]
}

interface Kept extends DBSchema {
  edits: { key: string; value: { base: number; from: string; file: string; saveId: string; sent?: string[] } }
}

const NAME = 'nephelon'
const VERSION = 1

function open(): Promise<IDBPDatabase<Kept>> {
  return openDB<Kept>(NAME, VERSION, {
    upgrade: (db) => void db.createObjectStore('edits'),
  })
}

/** Whose edit of what it is: what one person left unsent is never another's. */
const key = (person: string, job: string): string => `${person}/${job}`

/**
 * Keeps an edit on this device until it is sent; gives whether that was possible.
 * A store that is full or forbidden is no reason to lose anything: the edit is
 * still in the page, and sent from there.
 */
export async function keep(person: string, job: string, unsent: Unsent): Promise<boolean> {
  try {
    const db = await open()
    // As text: what a page edits may be wrapped, and wrapped things are not stored.
    const { base, saveId, sent } = unsent
    await db.put(
      'edits',
      { base, saveId, sent, from: JSON.stringify(unsent.from), file: JSON.stringify(unsent.file) },
      key(person, job),
    )
    db.close()
    return true
  } catch {
    return false
  }
}

/** What an earlier visit could not send. */
export async function left(person: string, job: string): Promise<Unsent | null> {
  try {
    const db = await open()
    const kept = await db.get('edits', key(person, job))
    db.close()
    if (!kept) return null
    return {
      base: kept.base,
      saveId: kept.saveId,
      sent: kept.sent ?? [],
      from: JSON.parse(kept.from) as PlanFile,
      file: JSON.parse(kept.file) as PlanFile,
    }
  } catch {
    return null
  }
}

/** Lets go of an edit that was sent, unless another took its place meanwhile. */
export async function drop(person: string, job: string, saveId: string): Promise<void> {
  try {
    const db = await open()
    const change = db.transaction('edits', 'readwrite')
    const kept = await change.store.get(key(person, job))
    if (kept?.saveId === saveId) await change.store.delete(key(person, job))
    await change.done
    db.close()
  } catch {
    // It is sent again at the next visit, and recognised by its id.
  }
}

const mine = (person: string): IDBKeyRange => IDBKeyRange.bound(`${person}/`, `${person}0`)

/** How many edits of a person this device could not send yet. */
export async function editsLeft(person: string): Promise<number> {
  const db = await open()
  const left = await db.count('edits', mine(person))
  db.close()
  return left
}

/** Throws a person's unsent edits away. */
export async function dropEdits(person: string): Promise<void> {
  const db = await open()
  await db.delete('edits', mine(person))
  db.close()
}
