import type { RecordKind } from '../../api/client'
import words from '../../api/words.gen.json'

/** What each kind of event is called. */
export const kindWords: Record<RecordKind, string> = words.recordKinds
