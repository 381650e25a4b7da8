<script setup lang="ts">
import { nextTick, onMounted } from 'vue'
import { useTold } from './told'

/** Messages of what happened, one after the other. */
const told = useTold()
const SHOWN_MS = 8000
onMounted(() => void nextTick(told.show))
</script>

<template>
  <v-snackbar-queue v-model="told.queue" :timeout="SHOWN_MS" location="bottom start">
    <template #actions="{ item, props }">
      <v-btn
        v-if="told.mayUndo(item.contentClass)"
        variant="text"
        data-test="told-undo"
        @click="(props.onClick(), told.undo(item.contentClass))"
        >Undo</v-btn
      >
      <v-btn variant="text" @click="props.onClick">Close</v-btn>
    </template>
  </v-snackbar-queue>
</template>
