<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import TextField from '../../fields/TextField.vue'
import { keepOriginal, readSheet, type SheetRead } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import { useSession } from '../../session/session'
import { fieldWords } from './sheet'
import { beginSheet, continueSheet, READ } from './useSheetDraft'

/** A maker's data sheet, as PDF or text: what was read, each value with its line, and what it does not state. */
const router = useRouter()
const session = useSession()
const { trouble, busy, ask } = useRequest()
const pasted = ref('')
const name = ref('')
const draft = ref<SheetRead>()
let content: Blob | undefined
const PASTED = 'pasted text.txt'

async function read(file: Blob, of: string): Promise<void> {
  if (of !== PASTED) pasted.value = ''
  draft.value = undefined
  decided.value = new Map()
  corrected.value = {}
  name.value = of
  content = file
  await readAgain()
}
async function readAgain(): Promise<void> {
  if (!content) return
  const { data } = await ask(
    readSheet(content, corrected.value),
    'This data sheet cannot be read.',
    'The server does not answer. Read it again when it is back.',
  )
  draft.value = data ?? draft.value
}
const readText = (): Promise<void> => read(new Blob([pasted.value]), PASTED)
/** A sheet of the shelf is looked through again by the document that is kept of it. */
const route = useRoute()
onMounted(async () => {
  const { hash, file } = route.query
  if (typeof hash !== 'string' || typeof file !== 'string') return
  const answer = await fetch(`/api/originals/${hash}`)
  if (answer.ok) await read(await answer.blob(), file)
  else trouble.value = 'This document is not kept any more.'
})
async function pick(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) await read(file, file.name)
}
const drop = (event: DragEvent): void => {
  const file = event.dataTransfer?.files[0]
  if (file) void read(file, file.name)
}
/** What a person said of each value: taken or left out. What nobody doubts is taken, what is doubtful is not. */
const decided = ref(new Map<string, boolean>())
/** A value by where it stands and what it says, since a corrected line may give others. */
function key(i: number): string {
  const v = draft.value?.values[i]
  return v ? [v.path, v.hardener, v.at, v.line, v.as].join('|') : ''
}
const taken = (i: number): boolean =>
  decided.value.get(key(i)) ?? draft.value?.values[i]?.state !== 'doubtful'
const open = computed(() =>
  (draft.value?.values ?? []).flatMap((v, i) =>
    v.state === 'doubtful' && !decided.value.has(key(i)) ? [i] : [],
  ),
)
/** Lines as a person wrote them anew, by number; and the one that is being written. */
const corrected = ref<Record<number, string>>({})
const writing = ref<{ row: number; line: number; text: string }>()
async function correct(i: number): Promise<void> {
  const v = draft.value?.values[i]
  if (!v) return
  writing.value = { row: i, line: v.line, text: corrected.value[v.line] ?? v.text }
  await nextTick()
  document.querySelector<HTMLInputElement>('[data-test=line] input')?.focus()
}
async function corrects(): Promise<void> {
  const w = writing.value
  if (!w) return
  corrected.value = { ...corrected.value, [w.line]: w.text }
  writing.value = undefined
  await readAgain()
  await nextTick()
  focus(draft.value?.values.findIndex((v) => v.line === w.line))
}
/** What a person wrote, where nothing can be read of it any more: as the sheet has it again, on one click. */
const unread = computed(() =>
  Object.entries(corrected.value).filter(
    ([line]) => !draft.value?.values.some((v) => v.line === Number(line)),
  ),
)
async function restore(line: string): Promise<void> {
  corrected.value = Object.fromEntries(Object.entries(corrected.value).filter(([l]) => l !== line))
  await readAgain()
}
const rows = ref<HTMLTableRowElement[]>([])
const focus = (i: number | undefined): void => rows.value[i ?? -1]?.focus()
async function decide(i: number, take: boolean): Promise<void> {
  decided.value = new Map(decided.value).set(key(i), take)
  await nextTick()
  focus(open.value.find((n) => n > i) ?? open.value[0] ?? i)
}
/** The table goes by keys: arrows to each row, N to the next open one, T takes, L leaves out, C corrects its line. */
function press(event: KeyboardEvent, i: number): void {
  if (event.target instanceof HTMLInputElement || event.ctrlKey || event.metaKey || event.altKey) return
  const keys: Record<string, () => void> = {
    ArrowDown: () => focus(i + 1),
    ArrowUp: () => focus(i - 1),
    n: () => focus(open.value.find((k) => k > i) ?? open.value[0]),
    t: () => void decide(i, true),
    l: () => void decide(i, false),
  }
  const act = keys[event.key]
  if (!act) return
  event.preventDefault()
  act()
}
/** A line opens as its key comes up: as it goes down, the letter would still be written into the line. */
function release(event: KeyboardEvent, i: number): void {
  if (event.target instanceof HTMLInputElement || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === 'c') void correct(i)
}
type Value = NonNullable<typeof draft.value>['values'][number]
/** A value by its field, the hardener it holds with, and its temperature. */
function called(v: Value): string {
  const at = v.at === undefined ? '' : ` at ${session.format('temperature', v.at)}`
  return words(v.path) + (v.hardener ? `, ${v.hardener}` : '') + at
}
/** A line as what stands before a value, the value, and what stands behind it; of what stands twice, each its own. */
function marked(v: Value): [string, string, string] {
  const alike = (draft.value?.values ?? []).filter(
    (o) => o.line === v.line && o.as === v.as && o.path === v.path,
  )
  let at = v.text.indexOf(v.as)
  for (const o of alike) {
    const next = v.text.indexOf(v.as, at + v.as.length)
    if (o === v || next < 0) break
    at = next
  }
  return at < 0 ? [v.text, '', ''] : [v.text.slice(0, at), v.as, v.text.slice(at + v.as.length)]
}
/** A field by its label, or in words as far as its path tells. */
function words(path: string): string {
  const said = fieldWords[path]
  if (said) return said
  const spaced = path
    .replace(/([A-Z])/g, ' $1')
    .replace(/:(.)/, (_, part: string) => ` of ${part.toUpperCase()}`)
  return spaced.charAt(0).toUpperCase() + spaced.slice(1)
}
/** The draft without what is left out, as the server makes it, and the document, which the server keeps. */
async function chosen() {
  if (!content) return undefined
  const without = (draft.value?.values ?? []).flatMap((_, i) => (taken(i) ? [] : [i]))
  const { data: sheet } = await ask(
    readSheet(content, corrected.value, without),
    'This data sheet cannot be read.',
  )
  if (!sheet) return undefined
  const { data: original } = await ask(keepOriginal(content, name.value), 'The document was not kept.')
  return original && { sheet, original }
}
async function begin(): Promise<void> {
  const made = await chosen()
  if (!made) return
  beginSheet({ ...made.sheet.product, original: made.original })
  await router.push({ path: '/shelf/new', query: { from: READ } })
}
async function next(): Promise<void> {
  const made = await chosen()
  const kept = made?.sheet.kept
  if (!kept) return
  continueSheet({ ...kept.sheet, original: made.original })
  await router.push(`/shelf/p/${kept.id}/edit`)
}
</script>

<template>
  <div class="page" @dragover.prevent @drop.prevent="drop">
    <p class="small"><router-link to="/shelf">← Shelf</router-link></p>
    <h1 class="mb-2">Read a data sheet</h1>
    <p class="mb-3">
      Choose or drop the maker’s PDF, or paste its text. Each value comes with the line it was read from; what
      the sheet does not state stays empty. Nothing is saved until you save the sheet.
    </p>
    <div class="row mb-3">
      <label class="v-btn file">
        <input
          type="file"
          accept=".pdf,.txt,application/pdf,text/plain"
          aria-label="Data sheet"
          @change="pick"
        />
      </label>
    </div>
    <template v-if="!draft || pasted">
      <TextField v-model="pasted" label="Text of the data sheet" :lines="5" data-test="sheet-text" />
      <div class="row mt-2">
        <v-btn :disabled="!pasted.trim() || busy" data-test="read-text" @click="readText"
          >Read the text</v-btn
        >
      </div>
    </template>
    <v-progress-linear v-if="busy" indeterminate aria-label="Reading the data sheet" />
    <p v-if="trouble" role="alert">{{ name }}: {{ trouble }}</p>
    <section v-if="draft" class="sheet part mt-3" aria-labelledby="draft-title" data-test="draft">
      <div class="row">
        <h2 id="draft-title" class="grow">
          {{ draft.values.length }} values read<template v-if="open.length"
            >, {{ open.length }} to look at</template
          >
        </h2>
        <v-btn v-if="open.length" data-test="next-doubt" @click="focus(open[0])">Next to look at</v-btn>
        <v-btn
          v-if="draft.kept"
          variant="flat"
          color="primary"
          data-test="next-edition"
          :disabled="busy"
          @click="next"
          >Make edition {{ draft.kept.edition + 1 }} of it</v-btn
        >
        <v-btn
          :variant="draft.kept ? 'text' : 'flat'"
          :color="draft.kept ? undefined : 'primary'"
          data-test="begin-sheet"
          :disabled="busy"
          @click="begin"
          >Begin a data sheet with it</v-btn
        >
      </div>
      <p class="small quiet mb-2">
        What is doubtful is left out until you take it. Keys: arrows, N next to look at, T take, L leave out,
        C correct the line. The document is kept with the sheet.
      </p>
      <v-alert v-if="draft.conflicts.length" type="warning" class="mb-3" data-test="conflicts">
        <div v-for="c in draft.conflicts" :key="c.text" class="mb-1">
          {{ c.text }}
          <div v-for="l in c.lines" :key="l.line" class="small">Line {{ l.line }}: {{ l.text }}</div>
        </div>
      </v-alert>
      <div v-if="draft.kept" class="mb-3" data-test="kept">
        <b>{{ draft.kept.sheet.name }} is on the shelf, edition {{ draft.kept.edition }}.</b>
        <template v-if="draft.kept.changes.length === 0"> This sheet says the same.</template>
        <table v-else class="figures">
          <thead>
            <tr>
              <th>Would change</th>
              <th>Kept edition</th>
              <th>This sheet</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in draft.kept.changes" :key="c.name">
              <td>{{ c.name }}</td>
              <td>{{ c.was || 'not given' }}</td>
              <td>{{ c.is || 'not given' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="scroll" tabindex="0" role="region" aria-label="What was read">
        <table class="figures">
          <thead>
            <tr>
              <th>Value</th>
              <th>As understood, and as written</th>
              <th>Line</th>
              <th>State</th>
              <th>Use</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(v, i) in draft.values"
              :key="i"
              ref="rows"
              tabindex="-1"
              :class="{ doubtful: v.state === 'doubtful' && !decided.has(key(i)), out: !taken(i) }"
              :data-value="v.path"
              @keydown="press($event, i)"
              @keyup="release($event, i)"
            >
              <td>{{ called(v) }}</td>
              <td>
                <b>{{ v.understood }}</b>
                <div v-if="v.as !== v.understood" class="small quiet">{{ v.as }}</div>
              </td>
              <td>
                <div v-if="writing?.row === i" class="row" data-test="line">
                  <TextField
                    v-model="writing.text"
                    class="grow"
                    :label="`Line ${v.line}`"
                    @keydown.enter="corrects"
                    @keydown.esc="writing = undefined"
                  />
                  <v-btn size="small" :disabled="busy" @click="corrects">Read the line again</v-btn>
                </div>
                <template v-else
                  ><span class="small quiet">{{ v.line }}</span> {{ marked(v)[0]
                  }}<mark>{{ marked(v)[1] }}</mark
                  >{{ marked(v)[2] }}
                  <span v-if="corrected[v.line] !== undefined" class="small">(corrected)</span></template
                >
              </td>
              <td>{{ v.state === 'doubtful' ? `look at it: ${v.why}` : (v.why ?? v.state) }}</td>
              <td class="use">
                <v-btn
                  v-if="!taken(i)"
                  size="small"
                  :aria-label="`Take ${called(v)}`"
                  @click="decide(i, true)"
                  >Take</v-btn
                >
                <v-btn
                  v-if="taken(i) || !decided.has(key(i))"
                  size="small"
                  variant="text"
                  :aria-label="`Leave out ${called(v)}`"
                  @click="decide(i, false)"
                  >Leave out</v-btn
                >
                <v-btn
                  size="small"
                  variant="text"
                  :aria-label="`Correct the line of ${called(v)}`"
                  @click="correct(i)"
                  >Correct</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div v-for="[line, text] in unread" :key="line" class="row mt-2" data-test="unread">
        <span class="grow">Line {{ line }} gives no value as you wrote it: “{{ text }}”.</span>
        <v-btn size="small" :disabled="busy" @click="restore(line)">As the sheet has it</v-btn>
      </div>
      <p v-if="draft.missing.length" class="small mt-2">
        <b>Not stated:</b> {{ draft.missing.map(words).join(', ') }}. What planning needs of these is asked
        for on the next page, and marked as assumed until you enter it.
      </p>
    </section>
  </div>
</template>

<style scoped>
.part {
  padding: 14px 18px;
}
.file {
  padding: 8px 14px;
  border: 1px dashed var(--line);
}
.doubtful td {
  color: var(--stop);
}
.out td:nth-child(-n + 3) {
  text-decoration: line-through;
}
mark {
  background: color-mix(in srgb, var(--warn) 28%, transparent);
  color: inherit;
}
.use {
  white-space: nowrap;
}
</style>
