<script setup lang="ts">
/** A few lines above the jobs, each a link with its time: what is booked next, what comes due. */
defineProps<{ title: string; label: string; warns?: boolean }>()
</script>

<template>
  <section class="strip" :class="{ warns }" :aria-label="label">
    <strong>{{ title }}</strong>
    <slot />
  </section>
</template>

<style scoped>
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  align-items: baseline;
  border-left: 5px solid var(--cure);
  padding: 6px 12px;
  margin-bottom: 12px;
}
.warns {
  border-left-color: var(--warn);
}
.strip :slotted(a) {
  color: inherit;
  text-decoration: none;
}
.strip :slotted(a:hover),
.strip :slotted(a.all) {
  text-decoration: underline;
}
@media (pointer: coarse) {
  .strip :slotted(a) {
    padding-block: 10px;
  }
}
</style>
