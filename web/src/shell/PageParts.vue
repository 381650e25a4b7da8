<script setup lang="ts">
/** The parts of a page as tabs: a title each, with a word on its state where there is one. */
defineProps<{ parts: Record<string, string | [title: string, state: string]>; label: string }>()
const part = defineModel<string>({ required: true })
const titled = (p: string | [string, string]): string => (typeof p === 'string' ? p : p[0])
</script>

<template>
  <v-tabs v-model="part" class="choices no-print" hide-slider :aria-label="label">
    <v-tab v-for="(p, id) in parts" :key="id" :value="id" :data-part="id">
      <span :class="{ title: typeof p !== 'string' }">{{ titled(p) }}</span>
      <span v-if="typeof p !== 'string'" class="small quiet">{{ p[1] }}</span>
    </v-tab>
  </v-tabs>
</template>

<style scoped>
.title {
  font-weight: 660;
}
/* What stands below a title changes with the answer; the parts stay where they are. */
:deep(.v-tab.v-btn:has(.title)) {
  min-width: 138px;
}
/* On a phone the tabs have a line of their own, below the title and what stands beside it. */
@media (max-width: 700px) {
  .choices {
    flex: 1 0 100%;
    order: 1;
  }
}
</style>
