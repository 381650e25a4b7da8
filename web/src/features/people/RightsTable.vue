<script setup lang="ts">
import { dataOf } from '../../api/useRequest'
import { ref } from 'vue'
import { api, type RightsLine } from '../../api/client'
import FoldPanel from '../../fields/FoldPanel.vue'

/** Permissions by role, as the server has it. */
const columns: Record<RightsLine['roles'][number], string> = {
  owner: 'owner',
  estimator: 'estimator',
  lead: 'lead',
  hand: 'hand',
}
const lines = ref<RightsLine[]>()
async function load(): Promise<void> {
  lines.value = (await dataOf(api.GET('/api/rights')))?.filter((l) => !l.anyone)
}
/** The words of an operation's name. */
const words = (name: string): string => name.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`)
</script>

<template>
  <FoldPanel class="sheet rights" data-test="rights" title="Permissions by role" @opened="load">
    <table v-if="lines" class="figures">
      <thead>
        <tr>
          <th>Action</th>
          <th v-for="(name, r) in columns" :key="r">{{ name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in lines" :key="l.operation">
          <td>{{ words(l.operation) }}</td>
          <td v-for="(_, r) in columns" :key="r">{{ l.roles.includes(r) ? 'yes' : '–' }}</td>
        </tr>
      </tbody>
    </table>
  </FoldPanel>
</template>

<style scoped>
.rights {
  padding: 8px 18px;
  margin-top: 20px;
}
</style>
