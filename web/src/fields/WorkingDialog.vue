<script setup lang="ts">
import { computed } from 'vue'
import { useWorkings } from './workings'
import WorkingTable from './WorkingTable.vue'

const shown = useWorkings()
const open = computed({
  get: () => shown.value.length > 0,
  set: (value) => {
    if (!value) shown.value = []
  },
})
</script>

<template>
  <v-dialog v-model="open" aria-label="How this was worked out">
    <div class="sheet working">
      <div class="row">
        <h2 class="grow">How this was worked out</h2>
        <v-btn variant="text" autofocus @click="open = false">Close</v-btn>
      </div>
      <WorkingTable v-for="w in shown" :key="w.title" :working="w" />
    </div>
  </v-dialog>
</template>

<style scoped>
.working {
  padding: 20px 24px;
  display: grid;
  gap: 18px;
  max-height: 86vh;
  overflow: auto;
}
</style>
