<script setup lang="ts">
import MoreMenu from '../../shell/MoreMenu.vue'
import type { PreparationTask } from '../../api/client'

/** What can be done with a step of the preparation. */
defineProps<{ task: PreparationTask; first: boolean; last: boolean }>()
const emit = defineEmits<{ earlier: []; later: []; passes: [n: number]; leave: []; edit: []; remove: [] }>()
const MOST = 9
</script>

<template>
  <MoreMenu :label="`Change the step ${task.name}`" :opener="`step-menu-${task.id}`" dense>
    <v-list-item title="Earlier" :disabled="first" @click="emit('earlier')" />
    <v-list-item title="Later" :disabled="last" @click="emit('later')" />
    <v-list-item
      title="Once more"
      :disabled="(task.passes ?? 1) >= MOST"
      @click="emit('passes', (task.passes ?? 1) + 1)"
    />
    <v-list-item
      v-if="(task.passes ?? 1) > 1"
      title="Once less"
      @click="emit('passes', (task.passes ?? 1) - 1)"
    />
    <template v-if="task.step">
      <v-list-item title="Edit" @click="emit('edit')" />
      <v-list-item title="Remove" @click="emit('remove')" />
    </template>
    <v-list-item v-else title="Leave out …" @click="emit('leave')" />
  </MoreMenu>
</template>
