<script setup lang="ts">
import type { Units } from '../api/client'
import { useSession } from '../session/session'

const session = useSession()
const choices: { value: Units; label: string }[] = [
  { value: 'metric', label: 'm · µm · L' },
  { value: 'us', label: 'ft · mil · gal' },
]
</script>

<template>
  <div class="switch" role="radiogroup" aria-label="Units">
    <button
      v-for="c in choices"
      :key="c.value"
      type="button"
      role="radio"
      :aria-checked="session.units === c.value"
      :data-units="c.value"
      @click="session.setUnits(c.value)"
    >
      {{ c.label }}
    </button>
  </div>
</template>

<style scoped>
.switch {
  display: inline-flex;
  border: 1px solid #7f9a94;
  border-radius: 3px;
  overflow: hidden;
}
button {
  font: inherit;
  font-size: 13px;
  white-space: nowrap;
  color: inherit;
  background: none;
  border: 0;
  padding: 5px 10px;
  cursor: pointer;
}
button[aria-checked='true'] {
  background: #eef4f2;
  color: #12312f;
  font-weight: 680;
}
</style>
