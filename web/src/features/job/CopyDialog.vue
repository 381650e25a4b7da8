<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import TextField from '../../fields/TextField.vue'
import { ref, watch } from 'vue'
import { api, type JobLine, type Surface } from '../../api/client'

/** Copies a surface with its coats into another job. */
const props = defineProps<{ jobId: string; surface: Surface }>()
const open = defineModel<boolean>({ required: true })
const jobs = ref<JobLine[]>([])
const words = ref('')
const { trouble, ask } = useRequest()
const done = ref<JobLine | null>(null)

async function load(): Promise<void> {
  const asked = words.value
  const { data } = await ask(
    api.GET('/api/jobs', { params: { query: { q: asked || undefined } } }),
    'The jobs cannot be listed.',
  )
  if (asked !== words.value) return
  jobs.value = (data ?? []).filter((j) => j.id !== props.jobId)
}
watch([open, words], () => {
  done.value = null
  if (open.value) void load()
})

async function copy(to: JobLine): Promise<void> {
  const { ok } = await ask(
    api.POST('/api/jobs/{job}/surfaces/{surface}/copies', {
      params: { path: { job: props.jobId, surface: props.surface.id } },
      body: { to: to.id },
    }),
    'The surface could not be copied.',
    'The server does not answer; nothing was copied.',
  )
  done.value = ok ? to : null
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-label="Copy a surface to another job">
    <div class="sheet copy" data-test="copy-dialog">
      <h2>Copy “{{ surface.name }}” to another job</h2>
      <TextField v-model="words" label="Find a job" autocomplete="off" />
      <p v-if="trouble" role="alert">{{ trouble }}</p>
      <p v-if="done" role="status">
        Copied with its coats and their data sheets.
        <router-link :to="`/jobs/${done.id}`">Open {{ done.name }}</router-link>
      </p>
      <p v-else-if="jobs.length === 0" class="quiet">
        There is no other job{{ words ? ' with these words' : '' }}.
      </p>
      <ul v-else>
        <li v-for="j in jobs" :key="j.id">
          <button type="button" class="plain target" @click="copy(j)">
            <strong>{{ j.name }}</strong> <span class="quiet small">{{ j.client }}</span>
          </button>
        </li>
      </ul>
      <div class="row"><v-btn @click="open = false">Close</v-btn></div>
    </div>
  </v-dialog>
</template>

<style scoped>
.copy {
  padding: 20px 24px;
  display: grid;
  gap: 12px;
}
ul {
  list-style: none;
  padding: 0;
  max-height: 300px;
  overflow: auto;
}
.target {
  display: block;
  width: 100%;
  padding: 8px;
  border-bottom: 1px solid var(--faint);
}
.target:hover {
  background: var(--faint);
}
</style>
