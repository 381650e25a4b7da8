<script setup lang="ts">
import type { SaveState } from '../composables/useJob'

defineProps<{ state: SaveState; trouble: string }>()
const words: Record<SaveState, string> = {
  saved: 'Saved',
  saving: 'Saving …',
  waiting: 'Saving …',
  away: 'Server away',
  stale: 'Changed by someone else',
  refused: 'Not taken',
  'signed-out': 'Signed out',
}
</script>

<template>
  <span class="mark small" :class="state" role="status" data-test="save-state" :data-state="state">{{
    words[state]
  }}</span>
</template>

<style scoped>
.mark {
  padding: 3px 10px;
  border: 1px solid var(--line);
  border-radius: 2px;
  min-width: 6.4em;
  text-align: center;
}
.away,
.refused,
.stale,
.signed-out {
  border: 2px solid var(--stop);
  color: var(--stop);
  font-weight: 680;
}
</style>
