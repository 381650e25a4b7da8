<script setup lang="ts">
import { ref } from 'vue'
import { api, type LogState } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import FoldPanel from '../../fields/FoldPanel.vue'

/** Whether the records are as the server took them, and the signed head by which anybody can check that later. */
const state = ref<LogState>()
const { trouble, busy, ask } = useRequest()
const outside = ref('')
async function check(): Promise<void> {
  const { data } = await ask(
    api.POST('/api/company/log/check', { body: { heads: outside.value } }),
    'The records cannot be checked.',
  )
  if (data) state.value = data
}
async function choose(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  outside.value = await file.text()
  await check()
}
const picker = ref<HTMLInputElement | null>(null)
function save(): void {
  if (!state.value) return
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([state.value.head], { type: 'text/plain' }))
  link.download = `record-head-${new Date().toISOString().slice(0, 10)}.txt`
  link.click()
  URL.revokeObjectURL(link.href)
}
</script>

<template>
  <FoldPanel class="sheet log" data-test="record-log" title="Record log" @opened="check">
    <p class="quiet small">
      Everything that is logged, issued or photographed is one more entry of a log that nobody can change
      unseen. Its head is signed. Keep one outside from time to time: with it, anything that was changed,
      taken away or written anew since then shows.
    </p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <v-progress-linear v-if="busy" indeterminate aria-label="Checking the records" />
    <template v-if="state">
      <p role="status" data-test="log-verdict">
        <b :class="{ bad: state.report.faults.length > 0 }">{{
          state.report.faults.length === 0
            ? 'The records are whole.'
            : state.report.faults.length === 1
              ? '1 thing does not fit.'
              : `${state.report.faults.length} things do not fit.`
        }}</b>
        {{ state.report.events }} events, {{ state.report.plans }} issued plans,
        {{ state.report.photos }} photographs, {{ state.report.entries }} entries of the log<template
          v-if="state.report.outside"
          >; {{ state.report.outside }} heads kept outside fit or are named below</template
        >.
      </p>
      <ul v-if="state.report.faults.length > 0" class="bad">
        <li v-for="(f, i) in state.report.faults" :key="i">
          {{ f.text }} <RouterLink v-if="f.job" :to="`/jobs/${f.job}/days`">Job</RouterLink>
        </li>
      </ul>
      <pre v-if="state.head" class="head" data-test="log-head">{{ state.head }}</pre>
      <p v-for="k in state.keys" :key="k" class="small quiet">
        Key <code>{{ k }}</code>
      </p>
    </template>
    <div class="row mt-3">
      <v-btn :disabled="busy" data-test="check-log" @click="check">Check now</v-btn>
      <v-btn :disabled="!state?.head" data-test="save-head" @click="save">Save the head</v-btn>
      <v-btn :disabled="busy" @click="picker?.click()">Compare with kept heads</v-btn>
      <input
        ref="picker"
        class="d-none"
        type="file"
        accept=".txt,text/plain"
        aria-label="File with heads that were kept"
        @change="choose"
      />
    </div>
  </FoldPanel>
</template>

<style scoped>
.log {
  padding: 8px 18px;
  margin-top: 20px;
}
.head {
  font-size: 13px;
  overflow-x: auto;
  padding: 8px 10px;
  border: 1px solid var(--line);
}
code {
  overflow-wrap: anywhere;
}
.bad {
  color: var(--stop);
}
</style>
