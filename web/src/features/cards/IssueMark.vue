<script setup lang="ts">
import { encode } from 'uqr'
import { computed } from 'vue'
import type { Issues } from '../../api/client'
import { dayTime } from '../../fields/clock'

/** The number under which a plan was issued, with a code that opens the job day at this place. */
const props = defineProps<{ issues: Issues; path: string }>()
const newest = computed(() => props.issues.lines[0])
const code = computed(() => encode(`${location.origin}${props.path}`))
const dots = computed(() =>
  code.value.data
    .flatMap((row, y) => row.flatMap((dark, x) => (dark ? [`M${x} ${y}h1v1h-1z`] : [])))
    .join(''),
)
</script>

<template>
  <div v-if="newest" class="mark" data-test="issue-mark">
    <svg :viewBox="`0 0 ${code.size} ${code.size}`" role="img" :aria-label="`Code that opens ${path}`">
      <rect :width="code.size" :height="code.size" fill="#fff" />
      <path :d="dots" fill="#000" />
    </svg>
    <p v-if="issues.changes.length === 0">
      <b>Plan {{ newest.number }}</b
      ><br />{{ dayTime(newest.at) }}
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
