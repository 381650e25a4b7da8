<script setup lang="ts">
import { dataOf } from '../../api/useRequest'
import { ref } from 'vue'
import { api } from '../../api/client'

/** That the company's room runs out, said while there is some left. */
const near = ref(false)
const full = ref('')
async function load(): Promise<void> {
  const data = await dataOf(api.GET('/api/company/storage'))
  near.value = data?.near ?? false
  full.value = data ? `${Math.round((100 * data.used) / data.quota)} %` : ''
}
void load()
</script>

<template>
  <p v-if="near" role="status" class="note" data-test="storage-note">
    {{ full }} of the storage for your company's photographs and plans is used. Remove photographs that nobody
    needs, or ask whoever runs Nephelon for more: when it is full, no photographs and jobs can be added.
  </p>
</template>

<style scoped>
.note {
  color: var(--warn);
  font-weight: 620;
}
</style>
