import { useRequest } from '../../api/useRequest'
import { useDebounceFn, useLocalStorage } from '@vueuse/core'
import { computed, ref, watch, type Ref } from 'vue'
import { entriesRead } from '../../fields/useReader'
import { api, type Product, type SheetJudged } from '../../api/client'

function blank(): Product {
  return {
    id: '',
    name: '',
    kind: 'primer',
    chemistry: 'epoxy',
    color: '#8a9a94',
    ratio: { basis: 'volume', source: 'sheet' },
    components: [
      { name: 'A', parts: 0 },
      { name: 'B', parts: 0 },
    ],
    volumeSolids: { value: 1, source: 'assumed' },
    kits: [],
  }
}

/** Stands for a sheet that begins with what was read of a maker's. */
export const READ = 'read'

/** What a sheet cannot be kept without and nobody assumes: it is asked for until someone has chosen it. */
export type Asked = 'kind' | 'chemistry'
const ASKED: Record<Asked, string> = {
  kind: 'Choose the kind of product.',
  chemistry: 'Choose the chemistry.',
}
const askedOf = (read: Record<string, unknown>): Asked[] =>
  (Object.keys(ASKED) as Asked[]).filter((k) => !read[k])
const keyOf = (id: string | undefined, from: string | undefined): string =>
  `nephelon.sheet.${id ?? `new.${from ?? ''}`}`

/**
 * Keeps what was read of a maker's sheet as the new sheet that is entered next. What the shelf cannot do without
 * and the sheet does not state is asked for; solids alone are assumed, and marked so.
 */
export function beginSheet(read: Record<string, unknown>): void {
  const key = keyOf(undefined, READ)
  localStorage.setItem(key, JSON.stringify({ ...blank(), ...read }))
  localStorage.setItem(`${key}.asked`, JSON.stringify(askedOf(read)))
}

/** Keeps a sheet of the shelf with what was read of a newer one as its next edition, to be looked at and saved. */
export function continueSheet(sheet: Product): void {
  localStorage.setItem(`nephelon.sheet.${sheet.id}`, JSON.stringify(sheet))
}

/** An id made of a name. */
export function idOf(name: string): string {
  const MOST = 60
  return name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, MOST)
}

/**
 * A data sheet being entered. It is judged as it grows, and kept on this device
 * until it is saved or given up.
 */
export function useSheetDraft(id: string | undefined, from: string | undefined) {
  const draft: Ref<Product | null> = useLocalStorage<Product | null>(keyOf(id, from), null, {
    serializer: { read: (v) => JSON.parse(v) as Product | null, write: (v) => JSON.stringify(v) },
  })
  const asked = useLocalStorage<Asked[]>(`${keyOf(id, from)}.asked`, [])
  const judged = ref<SheetJudged | null>(null)
  const { trouble, busy: saving, ask } = useRequest()
  const { trouble: waiting, ask: askJudge } = useRequest()
  const resumed = ref(draft.value !== null && from !== READ)

  async function begin(): Promise<void> {
    if (draft.value) return judge()
    const source = id ?? (from === READ ? undefined : from)
    if (!source) {
      draft.value = blank()
      asked.value = askedOf({})
      return judge()
    }
    const { data } = await ask(
      api.GET('/api/shelf/{id}', { params: { path: { id: source } } }),
      'This sheet cannot be read.',
    )
    if (!data) return
    draft.value = id
      ? data.sheet
      : { ...data.sheet, id: '', name: `${data.sheet.name} copy`, version: undefined, sample: undefined }
    return judge()
  }

  let newest = 0
  async function judge(): Promise<void> {
    newest += 1
    const mine = newest
    const sheet = complete()
    if (!sheet) return
    const { data } = await askJudge(
      api.POST('/api/shelf/judged', { body: sheet }),
      '',
      'The server does not answer; the sheet is kept on this device.',
    )
    if (mine === newest) judged.value = data ?? judged.value
  }
  const soon = useDebounceFn(judge, 200)
  watch(draft, () => void soon(), { deep: true })

  function complete(): Product | null {
    const d = draft.value
    if (!d) return null
    const components = d.components.map((c) => ({ ...c, parts: c.parts || 1 }))
    return { ...d, components, id: d.id || idOf(d.name) || 'unnamed', name: d.name || 'unnamed' }
  }

  const faults = computed(() => {
    const d = draft.value
    const missing = []
    if (d && !d.name.trim()) missing.push('Give the sheet a name.')
    missing.push(...asked.value.map((k) => ASKED[k]))
    if (d && d.components.length > 1 && d.components.some((c) => !c.parts))
      missing.push('Enter the mixing ratio: the parts of each component.')
    return [...missing, ...(judged.value?.faults ?? []).map((f) => `${f.text} ${f.way}`)]
  })

  /** Keeps the sheet; gives its id, or null when it was refused. */
  async function save(): Promise<string | null> {
    const unread = await entriesRead()
    if (unread) {
      trouble.value = `Not saved: ${unread}`
      return null
    }
    const sheet = complete()
    if (!sheet || faults.value.length > 0) {
      trouble.value = `Not saved: ${faults.value[0] ?? ''}`
      return null
    }
    const { data } = await ask(
      api.PUT('/api/shelf/{id}', { params: { path: { id: sheet.id } }, body: sheet }),
      'The sheet was not saved.',
      'The server does not answer; the sheet is kept on this device.',
    )
    if (!data) return null
    draft.value = null
    return data.sheet.id
  }

  void begin()
  return {
    draft,
    asked,
    judged,
    faults,
    trouble,
    waiting,
    resumed,
    saving,
    save,
    giveUp: () => (draft.value = null),
  }
}
