<script setup lang="ts">
import { dataOf, useRequest } from '../../api/useRequest'
import { useSending } from '../../api/useSending'
import SendingBar from '../../shell/SendingBar.vue'
import { computed, reactive, ref } from 'vue'
import { api, bringArchive, type StorageState } from '../../api/client'
import TextField from '../../fields/TextField.vue'

/** All data of the company: how much it is, and taking it along or bringing it in. */
const kept = ref<StorageState>()
const said = ref('')
const { trouble, ask } = useRequest()
const archive = reactive(
  useSending(bringArchive, {
    refused: 'Nothing was saved.',
    away: 'The server does not answer. Check whether it was imported before you import it again.',
    stopped: 'Stopped. Nothing was imported.',
  }),
)
const picker = ref<HTMLInputElement | null>(null)
async function load(): Promise<void> {
  kept.value = await dataOf(api.GET('/api/company/storage'))
}
void load()
const MEGA = 1e6
const GIGA = 1e9
const size = (n: number): string => (n >= GIGA ? `${(n / GIGA).toFixed(1)} GB` : `${Math.ceil(n / MEGA)} MB`)
const share = computed(() => (kept.value ? Math.min(1, kept.value.used / kept.value.quota) : 0))
/** The archive holds everything, so the password is asked for once more. */
const password = ref('')
async function take(): Promise<void> {
  trouble.value = ''
  const { ok } = await ask(
    api.POST('/api/me/confirmation', { body: { password: password.value } }),
    'Nothing was exported.',
  )
  password.value = ''
  if (ok) location.assign('/api/company/archive')
}
async function bring(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  said.value = ''
  const { ok } = await archive.take(file)
  if (ok)
    said.value = 'The archive is imported. Its people cannot sign in until you open their accounts above.'
  await load()
}
</script>

<template>
  <section class="sheet data" aria-labelledby="data-title" data-test="company-data">
    <h2 id="data-title">All data of the company</h2>
    <template v-if="kept">
      <p :class="{ near: kept.near }">
        {{ size(kept.used) }} of {{ size(kept.quota) }} are stored: photographs {{ size(kept.photos) }}, plans
        {{ size(kept.plans) }}, records {{ size(kept.record) }}, makers’ documents {{ size(kept.sheets) }}.
        <b v-if="kept.near">Remove photographs, or ask your administrator for more space.</b>
      </p>
      <div class="meter" role="img" :aria-label="`${Math.round(share * 100)} % of the storage is used`">
        <div :class="{ near: kept.near }" :style="{ width: `${Math.max(share * 100, 0.5)}%` }" />
      </div>
    </template>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <p v-if="archive.trouble" role="alert" class="trouble">{{ archive.name }}: {{ archive.trouble }}</p>
    <SendingBar
      v-if="archive.busy"
      :name="archive.name"
      :sent="archive.sent"
      then="Importing"
      @stop="archive.stop"
    />
    <p v-if="said" role="status">{{ said }}</p>
    <p>
      One archive holds plan files, the shelf, stock, systems, company standards, records, photographs and
      people, in open formats and without passwords.
    </p>
    <div class="row">
      <TextField v-model="password" label="Your password" type="password" autocomplete="current-password" />
      <v-btn data-test="take-archive" :disabled="!password" @click="take">Export company data</v-btn>
      <v-btn :disabled="archive.busy" @click="picker?.click()">Import archive</v-btn>
      <input
        ref="picker"
        class="d-none"
        type="file"
        accept=".zip,application/zip"
        aria-label="Archive to import"
        @change="bring"
      />
    </div>
    <p class="small quiet">It can be imported into an empty company.</p>
  </section>
</template>

<style scoped>
.data {
  padding: 16px 18px;
  margin-top: 20px;
  display: grid;
  gap: 10px;
}
.meter {
  height: 12px;
  border: 1px solid var(--line);
  max-width: 480px;
}
.meter div {
  height: 100%;
  background: var(--cure);
}
.near,
.trouble {
  color: var(--stop);
  font-weight: 600;
}
.meter div.near {
  background: var(--stop);
}
</style>
