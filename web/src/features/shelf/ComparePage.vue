<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, type SheetState } from '../../api/client'
import FactTable from './FactTable.vue'

const route = useRoute()
const sheets = ref<SheetState[]>([])
const trouble = ref('')
const MOST = 4
const ids = computed(() =>
  [route.query.id ?? []]
    .flat()
    .filter((v): v is string => !!v)
    .slice(0, MOST),
)

async function load(): Promise<void> {
  try {
    const answers = await Promise.all(
      ids.value.map((id) => api.GET('/api/shelf/{id}', { params: { path: { id } } })),
    )
    sheets.value = answers.flatMap((a) => (a.data ? [a.data] : []))
    if (sheets.value.length < 2) trouble.value = 'Choose at least two sheets on the shelf.'
  } catch {
    trouble.value = 'The server does not answer. Open this again when it is back.'
  }
}
void load()
</script>

<template>
  <div class="page">
    <p class="small"><router-link to="/shelf">← Shelf</router-link></p>
    <h1 class="mb-3">Side by side</h1>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <template v-if="sheets.length > 1">
      <p class="small quiet mb-2">
        Lines marked ≠ differ. Weak values are <span class="weak">underlined with dashes</span>.
      </p>
      <FactTable :columns="sheets.map((s) => ({ name: s.sheet.name, facts: s.facts }))" />
    </template>
  </div>
</template>
