import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { sendPhoto } from '../api/client'
import { smaller } from '../api/picture'

interface Photos extends DBSchema {
  waiting: { key: string; value: { id: string; person: string; job: string; surface: string; picture: Blob } }
}
const NAME = 'nephelon-photos'
/** What may wait on a device: more would fill it before the day is over. */
const MOST_WAITING = 60

const open = (): Promise<IDBPDatabase<Photos>> =>
  openDB<Photos>(NAME, 1, { upgrade: (db) => void db.createObjectStore('waiting', { keyPath: 'id' }) })

/** Keeps a photograph on this device until it is sent with what is logged of it; gives its id. */
export async function keepPhoto(person: string, job: string, surface: string, file: File): Promise<string> {
  const db = await open()
  if ((await db.count('waiting')) >= MOST_WAITING)
    throw new Error(
      `${MOST_WAITING} photographs wait on this device already. Go where there is a network, then take more.`,
    )
  const id = crypto.randomUUID()
  let picture: Blob
  try {
    picture = await smaller(file)
  } catch {
    throw new Error('This picture cannot be read. Take it again.')
  }
  await db.put('waiting', { id, person, job, surface, picture })
  return id
}

/** Sends what waits of a person, and tells how many are left; what cannot be sent stays. */
export async function sendPhotos(person: string): Promise<number> {
  const db = await open()
  const mine = (await db.getAll('waiting')).filter((p) => p.person === person)
  let left = mine.length
  for (const p of mine) {
    try {
      const { data } = await sendPhoto(p.job, p.surface, p.picture, p.id)
      if (!data) continue
      await db.delete('waiting', p.id)
      left--
    } catch {
      break
    }
  }
  return left
}

/** How many photographs of a person wait on this device. */
export async function photosLeft(person: string): Promise<number> {
  const db = await open()
  const left = (await db.getAll('waiting')).filter((p) => p.person === person).length
  db.close()
  return left
}

/** Throws a person's waiting photographs away. */
export async function dropPhotos(person: string): Promise<void> {
  const db = await open()
  for (const p of await db.getAll('waiting')) if (p.person === person) await db.delete('waiting', p.id)
  db.close()
}
