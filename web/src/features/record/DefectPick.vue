<script setup lang="ts">
import type { RecordSymptom } from '../../api/client'
import { sketches } from './sketches'

/** Chooses what is seen by its picture and name. */
defineProps<{ symptoms: RecordSymptom[] }>()
const seen = defineModel<string>({ required: true })
</script>

<template>
  <div class="picks" role="radiogroup" aria-label="Defect">
    <button
      v-for="s in symptoms"
      :key="s.key"
      type="button"
      role="radio"
      class="pick"
      :aria-checked="seen === s.key"
      :data-defect="s.key"
      @click="seen = s.key"
    >
      <!-- eslint-disable-next-line vue/no-v-html -- own drawings, no text of anybody -->
      <svg viewBox="0 0 72 44" aria-hidden="true" v-html="sketches[s.key] ?? ''" />
      <span>{{ s.title }}</span>
    </button>
  </div>
</template>

<style scoped>
.picks {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(136px, 1fr));
  grid-auto-rows: max-content;
  gap: 8px;
  max-height: 396px;
  overflow-y: auto;
  padding: 2px;
}
.pick {
  display: grid;
  gap: 4px;
  align-content: start;
  justify-items: start;
  text-align: left;
  padding: 6px 8px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
  font-size: 13px;
  line-height: 1.25;
  height: 100%;
  min-height: 108px;
}
.pick[aria-checked='true'] {
  border-color: var(--ink);
  box-shadow: inset 0 -3px 0 var(--cure);
}
svg {
  width: 72px;
  height: 44px;
}
svg :deep(path),
svg :deep(circle) {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
}
svg :deep(.f) {
  fill: color-mix(in srgb, var(--cure) 26%, transparent);
  stroke-width: 0.8;
}
svg :deep(.d) {
  stroke-dasharray: 3 3;
}
</style>
