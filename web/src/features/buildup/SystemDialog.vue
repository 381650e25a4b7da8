<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import TextField from '../../fields/TextField.vue'
import { computed, ref, watch } from 'vue'
import { api, type SystemLine } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { kindOf } from '../job/blank'
import { useSession } from '../../session/session'
import { beginWith } from './beginWith'
import SystemBands from '../../drawing/SystemBands.vue'

/** Begins a build-up with a system, or keeps it as one. */
const open = defineModel<boolean>({ required: true })
const desk = useDesk()
const session = useSession()
const lines = ref<SystemLine[] | null>(null)
const { trouble, ask } = useRequest()
const name = ref('')
const use = ref('')
const kept = ref('')
const kind = computed(() => kindOf(desk.surface.value))
const fitting = computed(() => (lines.value ?? []).filter((l) => l.system.for === kind.value))

async function load(): Promise<void> {
  kept.value = ''
  const { data } = await ask(api.GET('/api/systems'), 'The systems cannot be read.')
  if (data) lines.value = data
}
watch(open, (now) => now && void load())

function begin(line: SystemLine): void {
  desk.editSurface(`system ${line.system.id}`, (s, file) => {
    beginWith(line, s, file)
  })
  open.value = false
}

async function keep(): Promise<void> {
  const id = name.value
    .trim()
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
  if (!id) {
    trouble.value = 'Give the system a name.'
    return
  }
  const { ok } = await ask(
    api.PUT('/api/systems/{id}', {
      params: { path: { id }, query: { base: lines.value?.find((l) => l.system.id === id)?.revision ?? 0 } },
      body: {
        id,
        name: name.value.trim(),
        for: kind.value,
        use: use.value.trim() || undefined,
        coats: desk.surface.value.coats.map((c, i) => ({ ...c, id: `c${i + 1}` })),
      },
    }),
    'The system was not saved.',
  )
  if (!ok) return
  name.value = ''
  use.value = ''
  await load()
  kept.value = 'Saved. New surfaces of this kind can start from it.'
}
</script>

<template>
  <v-dialog v-model="open" max-width="900" scrollable aria-label="Systems">
    <div class="sheet pa-5 inner">
      <h2 class="mb-2">Start {{ desk.surface.value.name }} from a system</h2>
      <p class="quiet small mb-3">
        Its coats replace the present ones; Undo restores them. Films and products can be changed afterwards.
      </p>
      <p v-if="trouble" role="alert" class="mb-2">{{ trouble }}</p>
      <p v-if="lines === null && !trouble" class="quiet">Reading the systems …</p>
      <p v-else-if="fitting.length === 0" class="quiet">
        No system for this kind of surface yet. Create a build-up and save it below.
      </p>
      <ul class="systems">
        <li v-for="l in fitting" :key="l.system.id">
          <SystemBands :line="l" />
          <div class="grow">
            <strong>{{ l.system.name }}</strong>
            <p class="small">{{ l.system.use }}</p>
            <p class="small quiet">
              {{ l.system.coats.length }} coats:
              {{
                l.system.coats
                  .map((c) => l.products.find((p) => p.id === c.product)?.name ?? c.product)
                  .join(' · ')
              }}
            </p>
            <p v-if="l.missing.length" class="small">No longer on the shelf: {{ l.missing.join(', ') }}</p>
          </div>
          <v-btn
            size="small"
            :disabled="l.missing.length > 0"
            :data-test="`begin-${l.system.id}`"
            @click="begin(l)"
            >Use this system</v-btn
          >
        </li>
      </ul>
      <div v-if="desk.surface.value.coats.length > 0 && session.mayKeep" class="keep">
        <h3>Save this build-up as a system</h3>
        <div class="pair">
          <TextField v-model="name" label="Name of the system" maxlength="60" />
          <TextField v-model="use" label="Use of the system" maxlength="400" />
        </div>
        <v-btn size="small" data-test="keep-system" @click="keep">Save the system</v-btn>
        <span class="small ml-3" aria-live="polite">{{ kept }}</span>
      </div>
      <v-btn class="mt-3" variant="text" @click="open = false">Close</v-btn>
    </div>
  </v-dialog>
</template>

<style scoped>
.inner {
  overflow-y: auto;
}
.systems {
  list-style: none;
  padding: 0;
}
.systems li {
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.keep {
  margin-top: 18px;
}
</style>
