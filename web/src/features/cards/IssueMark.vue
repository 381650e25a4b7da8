<script setup lang="ts">
import { computed } from 'vue'
import type { Issues } from '../../api/client'
import ScanCode from '../../drawing/ScanCode.vue'
import { dayTime } from '../../fields/clock'

/** The number under which a plan was issued, with a code that opens the job day at this place. */
const props = defineProps<{ issues: Issues; path: string; zone?: string }>()
const newest = computed(() => props.issues.lines[0])
const address = computed(() => `${location.origin}${props.path}`)
</script>

<template>
  <div v-if="newest" class="mark" data-test="issue-mark">
    <ScanCode :text="address" :label="`Code that opens ${path}`" />
    <p v-if="issues.changes.length === 0">
      <b>Plan {{ newest.number }}</b
      ><br />{{ dayTime(newest.at, zone) }}
    </p>
    <p v-else class="off">
      <b>Not plan {{ newest.number }}</b
      ><br />issue again
    </p>
  </div>
</template>

<style scoped>
.mark {
  display: grid;
  justify-items: center;
  gap: 2px;
  font-size: 13px;
  text-align: center;
}
svg {
  width: 68px;
  height: 68px;
  flex: none;
}
p {
  margin: 0;
  white-space: nowrap;
}
.off {
  color: var(--stop);
}
</style>
