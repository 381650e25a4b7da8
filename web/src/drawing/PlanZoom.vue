<script setup lang="ts">
/** Enlarges a plan, makes it smaller, and shows the whole of it again. */
defineProps<{ moved: boolean }>()
const emit = defineEmits<{ zoom: [factor: number]; whole: [] }>()
</script>

<template>
  <div class="zoom">
    <button type="button" aria-label="Enlarge the plan" @click="emit('zoom', 1.25)">+</button>
    <button type="button" aria-label="Make the plan smaller" @click="emit('zoom', 0.8)">−</button>
    <button v-if="moved" type="button" @click="emit('whole')">Whole</button>
  </div>
</template>

<style scoped>
.zoom {
  display: flex;
  flex: none;
  gap: 4px;
}
button {
  font: inherit;
  font-weight: 680;
  color: inherit;
  min-width: 34px;
  height: 34px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 3px;
  cursor: pointer;
}
@media (pointer: coarse) {
  button {
    min-width: 44px;
    height: 44px;
  }
}
</style>
