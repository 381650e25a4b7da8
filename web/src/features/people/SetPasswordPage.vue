<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../../api/client'
import TextField from '../../fields/TextField.vue'

/** Where a link leads that sets a password. The secret stands behind the # and leaves this page in the request alone. */
const router = useRouter()
const secret = location.hash.slice(1)
const password = ref('')
const { trouble, ask } = useRequest()
if (!secret) trouble.value = 'This link is incomplete. Open it as you got it, or ask for a new one.'

async function set(): Promise<void> {
  const { ok } = await ask(
    api.POST('/api/password-link', { body: { secret, password: password.value } }),
    'The password was not set.',
  )
  if (ok) await router.push('/sign-in')
}
</script>

<template>
  <form class="page set" @submit.prevent="set">
    <h1>Set your password</h1>
    <p class="quiet">
      Four or five words that do not belong together are easy to remember and hard to guess.
    </p>
    <TextField
      v-model="password"
      label="New password, at least 12 characters"
      type="password"
      autocomplete="new-password"
    />
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <div>
      <v-btn type="submit" color="primary" variant="flat" :disabled="!secret">Set the password</v-btn>
    </div>
  </form>
</template>

<style scoped>
.set {
  max-width: 480px;
  display: grid;
  gap: 14px;
}
.trouble {
  color: var(--stop);
  font-weight: 600;
}
</style>
