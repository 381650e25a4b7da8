<script setup lang="ts">
import { computed } from 'vue'
import { useSession } from '../session/session'
import { parts } from './pages'

/** The pages that belong together with one of the head. */
const props = defineProps<{ of: keyof typeof parts }>()
const session = useSession()
const shown = computed(() => parts[props.of].filter((p) => !p.keeps || session.mayKeep))
const titles = { shelf: 'Shelf', people: 'People and crews' }
</script>

<template>
  <nav class="parts" :aria-label="titles[of]">
    <router-link v-for="p in shown" :key="p.to" :to="p.to" exact-active-class="here">{{
      p.title
    }}</router-link>
  </nav>
</template>

<style scoped>
.parts {
  display: flex;
  gap: 4px;
  margin-bottom: 14px;
  border-bottom: 1px solid var(--line);
}
.parts a {
  padding: 6px 14px;
  color: inherit;
  text-decoration: none;
  font-weight: 600;
  border-bottom: 4px solid transparent;
}
@media (pointer: coarse) {
  .parts a {
    padding: 12px 14px;
  }
}
.parts a.here {
  border-bottom-color: var(--cure);
}
</style>
