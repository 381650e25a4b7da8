<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, readShelfFile, type ShelfImport } from '../../api/client'
import TickField from '../../fields/TickField.vue'

const router = useRouter()
const reading = ref<ShelfImport | null>(null)
const fileName = ref('')
const { trouble, busy, ask } = useRequest()
const left = ref<string[]>([])
const chosen = computed(() => (reading.value?.lines ?? []).filter((l) => !left.value.includes(l.sheet.id)))
const changed = (line: ShelfImport['lines'][number]): boolean => line.new || line.changes.length > 0
const kept = computed(() => chosen.value.filter(changed))

async function pick(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  trouble.value = ''
  reading.value = null
  left.value = []
  fileName.value = file.name
  const { data, status } = await ask(
    readShelfFile(file),
    'This file cannot be read.',
    'The server does not answer. Choose the file again when it is back.',
  )
  reading.value = data ?? null
  if (!data && status > 0) trouble.value = `${file.name}: ${trouble.value}`
}

async function keep(): Promise<void> {
  if (!reading.value) return
  const { ok } = await ask(
    api.POST('/api/shelf-file/kept', {
      body: { products: kept.value.map((l) => l.sheet), media: reading.value.media },
    }),
    'Nothing was saved.',
    'The server does not answer; nothing was saved. Try again when it is back.',
  )
  if (ok) await router.push('/shelf')
}
</script>

<template>
  <div class="page">
    <p class="small"><router-link to="/shelf">← Shelf</router-link></p>
    <h1 class="mb-2">Import sheets from a file</h1>
    <p class="mb-3">
      A shelf file (<code>.nephelon-shelf.json</code>) or CSV with commas and decimal points.
      <a href="/api/shelf-file?form=csv">Save the shelf as CSV</a> to see the columns and their units. Nothing
      is saved until you confirm.
    </p>
    <label class="file">
      <input
        type="file"
        accept=".csv,.json,text/csv,application/json"
        data-test="shelf-file"
        @change="pick"
      />
      Choose a file …
    </label>
    <p v-if="busy" class="quiet" role="status">Reading …</p>
    <p v-if="trouble" role="alert" class="mt-2">{{ trouble }}</p>
    <template v-if="reading">
      <section v-if="reading.refused.length" class="mt-4" data-test="refused-rows">
        <h2>{{ reading.refused.length }} refused</h2>
        <ul class="rows">
          <li v-for="r in reading.refused" :key="`${r.line}${r.field}${r.text}`">
            <strong>Line {{ r.line }}{{ r.name ? `, ${r.name}` : '' }}</strong>
            <span
              >{{ r.text }} <b v-if="r.way">{{ r.way }}</b></span
            >
          </li>
        </ul>
        <p class="small quiet">
          Correct these rows in the file and import it again; the valid rows can be imported now.
        </p>
      </section>
      <section v-if="reading.lines.length" class="mt-4" data-test="good-rows">
        <h2>{{ reading.lines.length }} valid</h2>
        <table class="figures">
          <thead>
            <tr>
              <th>Import</th>
              <th class="num">Line</th>
              <th>Sheet</th>
              <th>Effect</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in reading.lines" :key="l.sheet.id">
              <td>
                <TickField
                  :heard="`Import ${l.sheet.name}`"
                  :model-value="changed(l) && !left.includes(l.sheet.id)"
                  :disabled="!changed(l)"
                  @update:model-value="
                    left = $event ? left.filter((i) => i !== l.sheet.id) : [...left, l.sheet.id]
                  "
                />
              </td>
              <td class="num">{{ l.line }}</td>
              <td>{{ l.sheet.name }}</td>
              <td class="small">
                <template v-if="l.new">new on the shelf</template>
                <template v-else-if="l.changes.length === 0">same as on the shelf</template>
                <template v-else
                  >changes
                  {{
                    l.changes.map((c) => `${c.name}: ${c.was || '—'} → ${c.is || '—'}`).join('; ')
                  }}</template
                >
                <span v-for="d in l.doubts" :key="d.text" class="doubt">{{ d.text }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <p v-if="reading.media.length" class="mt-3">With {{ reading.media.length }} media and tools.</p>
      <p v-if="!reading.lines.length && !reading.media.length" class="mt-3">
        No row of {{ fileName }} can be imported.
      </p>
      <v-btn
        class="mt-4"
        :disabled="busy || (kept.length === 0 && reading.media.length === 0)"
        data-test="keep-rows"
        @click="keep"
        >Import {{ kept.length }} {{ kept.length === 1 ? 'sheet' : 'sheets' }}</v-btn
      >
    </template>
  </div>
</template>

<style scoped>
.file {
  display: inline-block;
  padding: 10px 16px;
  border: 1px dashed var(--ink);
  font-weight: 620;
  cursor: pointer;
}
.file:focus-within {
  outline: 3px solid var(--cure);
}
.file input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.rows {
  list-style: none;
  padding: 0;
}
.rows li {
  display: grid;
  grid-template-columns: 14em 1fr;
  gap: 12px;
  padding: 6px 12px;
  border-left: 6px double var(--stop);
  margin-bottom: 6px;
}
.doubt {
  display: block;
  color: var(--warn);
}
@media (max-width: 700px) {
  .rows li {
    grid-template-columns: 1fr;
  }
}
</style>
