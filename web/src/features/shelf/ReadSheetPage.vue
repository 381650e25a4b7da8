<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import TextField from '../../fields/TextField.vue'
import { readSheet, type SheetDraft } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import { beginSheet, READ } from './useSheetDraft'

/** A maker's data sheet, as PDF or text: what was read, each value with its line, and what it does not state. */
const router = useRouter()
const { trouble, busy, ask } = useRequest()
const pasted = ref('')
const name = ref('')
const draft = ref<SheetDraft>()

async function read(content: Blob, of: string): Promise<void> {
  draft.value = undefined
  name.value = of
  const { data } = await ask(
    readSheet(content),
    'This data sheet cannot be read.',
    'The server does not answer. Read it again when it is back.',
  )
  draft.value = data
}
const readText = (): Promise<void> => read(new Blob([pasted.value]), 'The text')
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
const doubts = computed(() => (draft.value?.values ?? []).filter((v) => v.state === 'doubtful').length)
const DEGREES = 1
const where = (at?: number): string => (at === undefined ? '' : ` at ${at.toFixed(DEGREES)} °C`)
/** A field's name in words, as far as its path tells. */
const words = (path: string): string =>
  path
    .replace(/([A-Z])/g, ' $1')
    .replace(':', ' of part ')
    .toLowerCase()
async function begin(): Promise<void> {
  if (!draft.value) return
  beginSheet(draft.value.product)
  await router.push({ path: '/shelf/new', query: { from: READ } })
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
    <TextField v-model="pasted" label="Text of the data sheet" :lines="5" data-test="sheet-text" />
    <div class="row mb-3">
      <v-btn :disabled="!pasted.trim() || busy" data-test="read-text" @click="readText">Read the text</v-btn>
    </div>
    <v-progress-linear v-if="busy" indeterminate aria-label="Reading the data sheet" />
    <p v-if="trouble" role="alert">{{ name }}: {{ trouble }}</p>
    <section v-if="draft" class="sheet part" aria-labelledby="draft-title" data-test="draft">
      <div class="row">
        <h2 id="draft-title" class="grow">
          {{ draft.values.length }} values read<template v-if="doubts">, {{ doubts }} to look at</template>
        </h2>
        <v-btn variant="flat" color="primary" data-test="begin-sheet" @click="begin"
          >Begin a data sheet with it</v-btn
        >
      </div>
      <div class="scroll" tabindex="0" role="region" aria-label="What was read">
        <table class="figures">
          <thead>
            <tr>
              <th>Value</th>
              <th>As the sheet writes it</th>
              <th>Line</th>
              <th>State</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(v, i) in draft.values" :key="i" :class="{ doubtful: v.state === 'doubtful' }">
              <td>{{ words(v.path) }}{{ where(v.at) }}</td>
              <td>
                <b>{{ v.as }}</b>
              </td>
              <td>
                <span class="small quiet">{{ v.line }}</span> {{ v.text }}
              </td>
              <td>{{ v.state === 'doubtful' ? `look at it: ${v.why}` : v.state }}</td>
            </tr>
          </tbody>
        </table>
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
</style>
