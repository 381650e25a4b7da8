<script setup lang="ts">
import type { Units } from '../api/client'
import { useSession } from '../session/session'

/** How figures and times are read: the units, and where there is room the face of the clock. */
defineProps<{ face?: boolean }>()
const session = useSession()
const choices: { value: Units; label: string }[] = [
  { value: 'metric', label: 'm · µm · L' },
  { value: 'us', label: 'ft · mil · gal' },
]
</script>

<template>
  <v-btn-toggle
    :model-value="session.units"
    mandatory
    class="switch"
    aria-label="Units"
    @update:model-value="session.setReading({ units: $event as Units })"
  >
    <v-btn
      v-for="c in choices"
      :key="c.value"
      :value="c.value"
      :data-units="c.value"
      :aria-pressed="session.units === c.value"
      >{{ c.label }}</v-btn
    >
  </v-btn-toggle>
  <v-btn
    v-if="face"
    class="face"
    :aria-label="`${session.clock}-hour clock; change it`"
    data-test="clock-face"
    @click="session.setReading({ clock: session.clock === '12' ? '24' : '12' })"
    >{{ session.clock }} h</v-btn
  >
</template>

<style scoped>
.switch {
  flex: none;
  height: 32px;
  border: 1px solid #7f9a94;
  background: none;
}
.switch .v-btn {
  color: #eef4f2;
  background: none;
  height: 30px;
  min-width: 0;
  padding: 0 10px;
  border: 0;
  font-size: 13px;
}
/* The library's own layer comes before; the head is dark by day and night. */
.face {
  flex: none;
  height: 32px;
  min-width: 0;
  padding: 0 8px;
  border-color: #7f9a94;
  color: #eef4f2;
  font-size: 13px;
}
.switch .v-btn.v-btn--active {
  background: #eef4f2;
  color: #12312f;
}
</style>
