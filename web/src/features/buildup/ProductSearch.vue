<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import TextField from '../../fields/TextField.vue'
import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { api, type ShelfLine } from '../../api/client'
import { chemistryWords, kindWords } from '../shelf/kinds'
import { useSession } from '../../session/session'

/** Finds one product on the whole shelf. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ choose: [line: ShelfLine] }>()
const session = useSession()
const words = ref('')
const lines = ref<ShelfLine[]>([])
const total = ref(0)
const { trouble, ask } = useRequest()
const SHOWN = 20

async function search(): Promise<void> {
  const { data } = await ask(
    api.GET('/api/shelf', {
      params: { query: { q: words.value ?? '', limit: SHOWN } },
    }),
    'The shelf cannot be read.',
    'The server does not answer. Search again when it is back.',
  )
  if (data) lines.value = data.sheets
  total.value = data?.total ?? 0
}
const soon = useDebounceFn(search, 120)
watch(open, (now) => now && void search())
watch(words, () => void soon())
</script>

<template>
  <v-dialog v-model="open" max-width="640" aria-label="Search the shelf">
    <div class="sheet pa-5">
      <TextField v-model="words" label="Name, kind, chemistry or use" type="search" autofocus />
      <p v-if="trouble" role="alert">{{ trouble }}</p>
      <p class="small quiet" aria-live="polite">
        {{ total === 0 ? 'No product on the shelf matches.' : `${total} found`
        }}{{ total > lines.length ? `, the first ${lines.length} shown` : '' }}
      </p>
      <ul class="found">
        <li v-for="l in lines" :key="l.sheet.id">
          <button type="button" class="plain" :data-test="`take-${l.sheet.id}`" @click="emit('choose', l)">
            <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="l.sheet.color" /></svg>
            <strong>{{ l.sheet.name }}</strong>
            <span class="quiet small">
              {{ kindWords[l.sheet.kind] }} · {{ chemistryWords[l.sheet.chemistry] }}
              <template v-if="l.sheet.filmMin && l.sheet.filmMax">
                · {{ session.format('film', l.sheet.filmMin.value) }} to
                {{ session.format('film', l.sheet.filmMax.value) }}</template
              >
            </span>
          </button>
        </li>
      </ul>
    </div>
  </v-dialog>
</template>

<style scoped>
.found {
  list-style: none;
  padding: 0;
  max-height: 50vh;
  overflow-y: auto;
}
.found button {
  display: block;
  width: 100%;
  text-align: left;
  padding: 8px;
  border-bottom: 1px solid var(--line);
}
</style>
