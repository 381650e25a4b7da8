<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { ref, watch } from 'vue'

/** Asks what a new job is called. */
defineProps<{ trouble: string }>()
const emit = defineEmits<{ add: [name: string, client: string] }>()
const open = defineModel<boolean>({ required: true })
const name = ref('')
const client = ref('')
const unnamed = ref(false)
watch(open, () => {
  name.value = client.value = ''
  unnamed.value = false
})

function add(): void {
  unnamed.value = !name.value.trim()
  if (!unnamed.value) emit('add', name.value.trim(), client.value.trim())
}
</script>

<template>
  <v-dialog v-model="open" aria-label="New job">
    <form class="sheet dialog" @submit.prevent="add">
      <h2>New job</h2>
      <TextField
        v-model="name"
        label="Name of the job"
        autofocus
        maxlength="160"
        :fault="unnamed ? 'Give the job a name.' : ''"
      />
      <TextField v-model="client" label="Client (optional)" maxlength="160" />
      <p v-if="trouble" role="alert">{{ trouble }}</p>
      <div class="row">
        <v-btn type="submit" color="primary" variant="flat">Create job</v-btn>
        <v-btn variant="text" @click="open = false">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 24px;
  display: grid;
  gap: 14px;
}
</style>
