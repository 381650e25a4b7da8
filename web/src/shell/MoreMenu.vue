<script setup lang="ts">
import { mdiDotsVertical } from '@mdi/js'

/** What else can be done with something, behind three dots. */
defineProps<{ label: string; opener: string; dense?: boolean }>()
</script>

<template>
  <v-menu>
    <template #activator="{ props: own }">
      <v-btn
        v-bind="own"
        :icon="mdiDotsVertical"
        size="small"
        :density="dense ? 'compact' : 'default'"
        variant="text"
        :aria-label="label"
        :data-test="opener"
      />
    </template>
    <v-list density="compact"><slot /></v-list>
  </v-menu>
</template>
