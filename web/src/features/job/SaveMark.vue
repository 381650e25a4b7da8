<script setup lang="ts">
import { computed } from 'vue'
import type { SaveState } from './useSaving'
import { beingTaken } from '../../fields/useReader'

const props = defineProps<{ state: SaveState }>()
const shown = computed(() => (props.state === 'saved' && beingTaken.value ? 'waiting' : props.state))
const words: Record<SaveState, string> = {
  saved: 'Saved',
  saving: 'Saving …',
  waiting: 'Saving …',
  away: 'Server away',
  stale: 'Changed by someone else',
  refused: 'Rejected',
  'signed-out': 'Signed out',
}
</script>

<template>
  <span class="mark small" :class="shown" role="status" data-test="save-state" :data-state="shown">{{
    words[shown]
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
