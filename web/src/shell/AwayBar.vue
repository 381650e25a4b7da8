<script setup lang="ts">
import { waiting } from '../api/patience'
</script>

<template>
  <p v-if="waiting > 0" class="away no-print" role="status" data-test="away">
    Away: the server does not answer.
    {{ waiting === 1 ? 'Your change waits' : `${waiting} changes wait` }} here and
    {{ waiting === 1 ? 'is' : 'are' }} sent when it is back. Leave this page open.
  </p>
</template>

<style scoped>
.away {
  position: sticky;
  top: 0;
  z-index: 5;
  margin: 0;
  padding: 8px 24px;
  background: var(--warn);
  color: var(--paper);
  font-weight: 620;
}
</style>
