<script setup lang="ts">
/** The patterns by which the states of a coat are told on plans and ribbons: mixed, workable, setting. */
defineProps<{ id: string; color: string }>()
</script>

<template>
  <defs>
    <pattern :id="`${id}-mix`" width="7" height="7" patternUnits="userSpaceOnUse">
      <path d="M0 7L7 0" class="ribbon" />
    </pattern>
    <pattern :id="`${id}-mixing`" width="12" height="12" patternUnits="userSpaceOnUse">
      <path d="M0 12L12 0" class="hatch" stroke-dasharray="3 3" />
    </pattern>
    <pattern :id="`${id}-workable`" width="8" height="8" patternUnits="userSpaceOnUse">
      <rect width="8" height="8" :fill="color" fill-opacity=".42" />
      <path d="M0 8L8 0" class="hatch" />
    </pattern>
    <pattern :id="`${id}-setting`" width="7" height="7" patternUnits="userSpaceOnUse">
      <rect width="7" height="7" :fill="color" fill-opacity=".3" />
      <circle cx="3.5" cy="3.5" r="1.5" class="dot" />
    </pattern>
  </defs>
</template>

<style scoped>
.hatch {
  stroke: #12201d;
  stroke-width: 1.2;
  fill: none;
  opacity: 0.55;
}
.ribbon {
  stroke: var(--ink);
  stroke-width: 1.2;
  fill: none;
  opacity: 0.7;
}
.dot {
  fill: #12201d;
  opacity: 0.6;
}
</style>
