<script setup lang="ts">
import { dataOf } from '../../api/useRequest'
import { ref } from 'vue'
import { api, type AuditLine } from '../../api/client'
import { dayTime } from '../../fields/clock'
import FoldPanel from '../../fields/FoldPanel.vue'

/** What was done with accounts, rights and data; nobody can change it. */
const lines = ref<AuditLine[]>()
const headers = [
  { title: 'When', key: 'at', width: 170 },
  { title: 'Who', key: 'name', width: 160 },
  { title: 'Action', key: 'what', width: 200 },
  { title: 'Subject', key: 'about' },
]
const ROW = 40
const MOST = 480
async function load(): Promise<void> {
  lines.value = await dataOf(api.GET('/api/audit'))
}
</script>

<template>
  <FoldPanel class="sheet log" data-test="audit" title="Audit log" @opened="load">
    <p><a href="/api/audit-file">As CSV</a></p>
    <v-data-table-virtual
      v-if="lines"
      class="rows"
      :headers="headers"
      :items="lines"
      density="compact"
      fixed-header
      :height="Math.min(lines.length * ROW + ROW, MOST)"
    >
      <template #[`item.at`]="{ value }">{{ dayTime(value) }}</template>
    </v-data-table-virtual>
  </FoldPanel>
</template>

<style scoped>
.log {
  padding: 8px 18px;
  margin-top: 20px;
}
.about {
  overflow-wrap: anywhere;
}
</style>
