<script setup lang="ts">
import { ref } from 'vue'
import { api, refusal, type SessionLine } from '../../api/client'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import FactorPart from './FactorPart.vue'
import { useSession } from './session'

/** One's own account: the password, and where one is signed in. */
const session = useSession()
const old = ref('')
const fresh = ref('')
const trouble = ref('')
const done = ref('')
const places = ref<SessionLine[]>([])
const AWAY = 'The server does not answer. Try again when the connection is back.'

async function load(): Promise<void> {
  try {
    places.value = (await api.GET('/api/me/sessions')).data ?? []
  } catch {
    trouble.value = AWAY
  }
}
void load()

async function change(): Promise<void> {
  done.value = ''
  try {
    const { error, response } = await api.PUT('/api/me/password', {
      body: { old: old.value, new: fresh.value },
    })
    trouble.value = response.ok ? '' : refusal(error, 'The password was not changed.')
    if (!response.ok) return
    done.value = 'The password is changed; everywhere else you are signed out.'
    old.value = fresh.value = ''
    await load()
  } catch {
    trouble.value = AWAY
  }
}
async function end(): Promise<void> {
  try {
    await api.DELETE('/api/me/sessions')
    done.value = 'You are signed out everywhere else.'
    await load()
  } catch {
    trouble.value = AWAY
  }
}
</script>

<template>
  <div class="page">
    <h1 class="mb-4">{{ session.me?.name }}</h1>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <p v-if="done" role="status">{{ done }}</p>
    <form class="sheet part" @submit.prevent="change">
      <h2>Change the password</h2>
      <TextField v-model="old" label="Password now" type="password" autocomplete="current-password" />
      <TextField
        v-model="fresh"
        label="New password, at least 12 characters"
        type="password"
        autocomplete="new-password"
      />
      <div><v-btn type="submit" color="primary" variant="flat">Change it</v-btn></div>
    </form>
    <FactorPart class="part" />
    <section class="sheet part" aria-labelledby="places-title">
      <h2 id="places-title">Where you are signed in</h2>
      <ul data-test="places">
        <li v-for="p in places" :key="p.seenAt + p.agent">
          {{ p.agent || 'a browser' }}, used {{ dayTime(p.seenAt) }}
        </li>
      </ul>
      <div><v-btn :disabled="places.length < 2" @click="end">Sign out everywhere else</v-btn></div>
    </section>
  </div>
</template>

<style scoped>
.part {
  padding: 18px 20px;
  margin-bottom: 16px;
  display: grid;
  gap: 12px;
  max-width: 560px;
}
.trouble {
  color: var(--stop);
  font-weight: 600;
}
ul {
  padding-left: 20px;
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
