<script setup lang="ts">
import { useSession } from '../../session/session'

/** How one reads figures and times. */
const session = useSession()
</script>

<template>
  <v-radio-group
    label="Units"
    :model-value="session.units"
    inline
    hide-details
    @update:model-value="session.setReading({ units: $event === 'us' ? 'us' : 'metric' })"
  >
    <v-radio label="m, µm, L, °C" value="metric" />
    <v-radio label="ft, mil, gal, °F" value="us" />
  </v-radio-group>
  <v-radio-group
    label="Clock"
    :model-value="session.clock"
    inline
    hide-details
    data-test="clock"
    @update:model-value="session.setReading({ clock: $event === '12' ? '12' : '24' })"
  >
    <v-radio label="24 hours (14:30)" value="24" />
    <v-radio label="12 hours (2:30 PM)" value="12" />
  </v-radio-group>
</template>
