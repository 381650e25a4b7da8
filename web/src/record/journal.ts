import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { RecordEvent, RecordIssue } from '../api/client'

/** What a device keeps of a day: bound to the person and the job, so that nothing is another's. */
interface Kept extends DBSchema {
  issues: { key: string; value: RecordIssue }
  events: {
    key: string
    value: { key: string; day: string; unsent: 0 | 1; event: RecordEvent; refused?: string }
    indexes: { day: string; unsent: [string, number] }
  }
  heads: { key: string; value: { device: string; number: number; hash: string } }
}

const NAME = 'nephelon-days'
const VERSION = 1

export interface Journal {
  issue: () => Promise<RecordIssue | undefined>
  keepIssue: (issue: RecordIssue) => Promise<void>
  events: () => Promise<RecordEvent[]>
  /** Makes the next event of this device: numbered, sealed and kept, or not at all. */
  append: (make: (device: string, number: number, before: string) => RecordEvent) => Promise<RecordEvent>
  /** Keeps what others logged, and knows those as sent that the server has. */
  learn: (events: RecordEvent[]) => Promise<void>
  /** Keeps events that could not be sent yet, after what was kept was cleared. */
  keep: (events: RecordEvent[]) => Promise<void>
  /**
   * Makes events that could not be sent yet anew, each after the one before it; make gives
   * undefined for one that stays. Reports whether any was.
   */
  correct: (
    ids: string[],
    make: (event: RecordEvent, before: string) => RecordEvent | undefined,
  ) => Promise<boolean>
  unsent: () => Promise<RecordEvent[]>
  refuse: (id: string, text: string) => Promise<void>
  refused: () => Promise<{ event: RecordEvent; text: string }[]>
}

function open(): Promise<IDBPDatabase<Kept>> {
  return openDB<Kept>(NAME, VERSION, {
    upgrade: (fresh) => {
      fresh.createObjectStore('issues')
      fresh.createObjectStore('heads')
      const events = fresh.createObjectStore('events', { keyPath: 'key' })
      events.createIndex('day', 'day')
      events.createIndex('unsent', ['day', 'unsent'])
    },
  })
}

const mine = (person: string): IDBKeyRange => IDBKeyRange.bound(`${person}/`, `${person}0`)

/** How many events of a person, of whatever job, this device could not send yet. */
export async function eventsLeft(person: string): Promise<number> {
  const db = await open()
  const left = (await db.getAll('events', mine(person))).filter((r) => r.unsent === 1).length
  db.close()
  return left
}

/** Throws away what this device keeps of a person's days. */
export async function dropEvents(person: string): Promise<void> {
  const db = await open()
  await Promise.all((['events', 'heads', 'issues'] as const).map((of) => db.delete(of, mine(person))))
  db.close()
}

/** Opens the journal of a person's day at a job on this device. */
export async function openJournal(person: string, job: string): Promise<Journal> {
  const day = `${person}/${job}`
  const db = await open()
  const row = (event: RecordEvent, unsent: 0 | 1): Kept['events']['value'] => ({
    key: `${day}/${event.id}`,
    day,
    unsent,
    event,
  })
  return {
    issue: () => db.get('issues', day),
    keepIssue: async (issue) => {
      await db.put('issues', issue, day)
    },
    events: async () =>
      (await db.getAllFromIndex('events', 'day', day)).filter((r) => !r.refused).map((r) => r.event),
    append: async (make) => {
      const change = db.transaction(['events', 'heads'], 'readwrite', { durability: 'strict' })
      const head = await change.objectStore('heads').get(day)
      const device = head?.device ?? crypto.randomUUID()
      const number = (head?.number ?? 0) + 1
      try {
        const event = make(device, number, head?.hash ?? '')
        void change.objectStore('heads').put({ device, number, hash: event.hash }, day)
        void change.objectStore('events').put(row(event, 1))
        await change.done
        return event
      } catch (error) {
        await change.done.catch(() => undefined)
        throw error
      }
    },
    learn: async (events) => {
      const change = db.transaction('events', 'readwrite')
      for (const event of events) void change.store.put(row(event, 0))
      await change.done
    },
    keep: async (events) => {
      const change = db.transaction('events', 'readwrite', { durability: 'strict' })
      for (const event of events) void change.store.put(row(event, 1))
      await change.done
    },
    correct: async (ids, make) => {
      const change = db.transaction(['events', 'heads'], 'readwrite', { durability: 'strict' })
      const events = change.objectStore('events')
      const kept = await Promise.all(ids.map((id) => events.get(`${day}/${id}`)))
      const wrong = kept.flatMap((r) => (r ? [r.event] : [])).sort((a, b) => a.number - b.number)
      const head = await change.objectStore('heads').get(day)
      let last: RecordEvent | undefined
      for (const event of wrong) {
        const follows = last?.number === event.number - 1
        const anew = make(event, follows && last ? last.hash : event.before)
        if (!anew) continue
        last = anew
        void events.put(row(anew, 1))
        if (head && head.number === anew.number && head.device === anew.device)
          void change.objectStore('heads').put({ ...head, hash: anew.hash }, day)
      }
      await change.done
      return last !== undefined
    },
    unsent: async () =>
      (await db.getAllFromIndex('events', 'unsent', [day, 1]))
        .map((r) => r.event)
        .sort((a, b) => a.number - b.number),
    refuse: async (id, text) => {
      const kept = await db.get('events', `${day}/${id}`)
      if (kept) await db.put('events', { ...kept, unsent: 0, refused: text })
    },
    refused: async () =>
      (await db.getAllFromIndex('events', 'day', day))
        .filter((r) => r.refused)
        .map((r) => ({ event: r.event, text: r.refused ?? '' })),
  }
}
