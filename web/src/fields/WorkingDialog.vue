<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useWorkings } from './workings'
import WorkingTable from './WorkingTable.vue'

const shown = useWorkings()
const open = computed({
  get: () => shown.value.length > 0,
  set: (value) => {
    if (!value) shown.value = []
  },
})
/** The figure under the pointer or with the focus: one tooltip serves them all. */
const pointed = ref<HTMLElement>()
function point(event: Event): void {
  pointed.value = (event.target as Element).closest<HTMLElement>('.open-figure') ?? undefined
}
useEventListener(document, ['pointerover', 'focusin'], point)
</script>

<template>
  <v-tooltip
    v-if="pointed"
    :key="pointed.innerText"
    :target="pointed"
    :model-value="true"
    location="top"
    text="How this was worked out"
  />
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
