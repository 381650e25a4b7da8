<script setup lang="ts">
import { dataOf } from '../../api/useRequest'
import { ref } from 'vue'
import { api, type AuditLine } from '../../api/client'
import { dayTime } from '../../fields/clock'
import FoldPanel from '../../fields/FoldPanel.vue'

/** What was done with accounts, rights and data; nobody can change it. */
const lines = ref<AuditLine[]>()
async function load(): Promise<void> {
  lines.value = await dataOf(api.GET('/api/audit'))
}
</script>

<template>
  <FoldPanel class="sheet log" data-test="audit" title="Audit log" @opened="load">
    <p><a href="/api/audit-file">As CSV</a></p>
    <table v-if="lines" class="figures">
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>Action</th>
          <th>Subject</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(l, i) in lines" :key="i">
          <td>{{ dayTime(l.at) }}</td>
          <td>{{ l.name }}</td>
          <td>{{ l.what }}</td>
          <td class="about">{{ l.about }}</td>
        </tr>
      </tbody>
    </table>
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
