<script setup lang="ts">
import { ref, watch } from 'vue'

/** What is read or set rarely, behind its title; nothing of it is built before it is opened. */
const props = defineProps<{ title?: string; open?: boolean }>()
const emit = defineEmits<{ opened: [] }>()
const shown = ref(props.open)
watch(
  () => props.open,
  (open) => (shown.value = open),
)
function turn(to: unknown): void {
  shown.value = to === true
  if (shown.value) emit('opened')
}
</script>

<template>
  <v-expansion-panels class="fold" :model-value="shown" @update:model-value="turn">
    <v-expansion-panel :value="true">
      <v-expansion-panel-title>
        <span class="fold-title"
          ><slot name="title">{{ title }}</slot></span
        >
      </v-expansion-panel-title>
      <v-expansion-panel-text><slot /></v-expansion-panel-text>
    </v-expansion-panel>
  </v-expansion-panels>
</template>
