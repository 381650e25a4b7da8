<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useDesk } from '../job/useEditor'
import TickField from '../../fields/TickField.vue'
import PickField from '../../fields/PickField.vue'
import QuantityField from '../../fields/QuantityField.vue'
import { useReshape } from './useReshape'

/** Turns a straight wall into a round bay by its rise. */
const desk = useDesk()
const { reshape, trouble } = useReshape()
const wall = ref(0)
const rise = ref<number>()
const inward = ref(false)
const outline = computed(() => desk.surface.value.floor.outline)
const SHOWN = 40
watch(outline, () => {
  if (wall.value >= outline.value.length) wall.value = 0
})

async function round(): Promise<void> {
  if (!rise.value) return
  await reshape('curve wall', { op: 'bay', wall: wall.value + 1, rise: rise.value, inward: inward.value })
  if (!trouble.value) rise.value = undefined
}
</script>

<template>
  <div class="round" data-test="round-wall">
    <PickField
      label="Wall to curve"
      :model-value="String(wall)"
      :options="Object.fromEntries(outline.slice(0, SHOWN).map((_, i) => [i, String(i + 1)]))"
      @update:model-value="wall = Number($event)"
    />
    <QuantityField v-model="rise" kind="length" label="Rise of the bay" positive />
    <TickField v-model="inward" label="inward" />
    <v-btn size="small" :disabled="!rise" @click="round">Make curved</v-btn>
    <p v-if="trouble" class="small" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.round {
  display: grid;
  grid-template-columns: auto 1fr auto auto;
  gap: 10px;
  align-items: center;
  margin: 10px 0;
}
</style>
