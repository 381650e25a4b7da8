<script setup lang="ts">
import { gridSteps } from './useGrid'
import { useSession } from '../session/session'

const grid = defineModel<number>({ required: true })
const session = useSession()
</script>

<template>
  <label class="small">
    Grid
    <select v-model="grid" class="control" aria-label="Grid of the drawing">
      <option v-for="g in gridSteps(session.units)" :key="g" :value="g">
        {{ session.format('length', g) }}
      </option>
    </select>
  </label>
</template>
