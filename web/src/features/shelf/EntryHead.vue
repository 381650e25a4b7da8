<script setup lang="ts">
import { useSession } from '../../session/session'
import NameField from '../../fields/NameField.vue'

/** The name of a thing that was added, and the way to take it out. */
defineProps<{ label: string; name: string }>()
const emit = defineEmits<{ rename: [name: string]; remove: [] }>()
const session = useSession()
</script>

<template>
  <div class="row">
    <NameField class="grow" :label="label" :model-value="name" @update:model-value="emit('rename', $event)" />
    <slot />
    <v-btn
      v-if="session.mayEdit"
      size="small"
      variant="text"
      :aria-label="`Remove ${name}`"
      @click="emit('remove')"
      >Remove</v-btn
    >
  </div>
</template>
