<script setup lang="ts">
import { gridSteps } from './useGrid'
import { useSession } from '../session/session'
import PickField from '../fields/PickField.vue'

const grid = defineModel<number>({ required: true })
const session = useSession()
</script>

<template>
  <PickField
    label="Grid of the drawing"
    :model-value="String(grid)"
    :options="Object.fromEntries(gridSteps(session.units).map((g) => [g, session.format('length', g)]))"
    @update:model-value="grid = Number($event)"
  />
</template>
