<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { ref } from 'vue'
import { api, type SessionLine } from '../../api/client'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import FactorPart from './FactorPart.vue'
import ReadingFields from './ReadingFields.vue'
import { useSession } from '../../session/session'

/** One's own account: the password, and where one is signed in. */
const session = useSession()
const old = ref('')
const fresh = ref('')
const { trouble, ask } = useRequest()
const done = ref('')
const places = ref<SessionLine[]>([])

async function load(): Promise<void> {
  const { data } = await ask(api.GET('/api/me/sessions'), 'Your sessions cannot be listed.')
  if (data) places.value = data
}
void load()

async function change(): Promise<void> {
  done.value = ''
  const { ok } = await ask(
    api.PUT('/api/me/password', { body: { old: old.value, new: fresh.value } }),
    'The password was not changed.',
  )
  if (!ok) return
  done.value = 'The password is changed; everywhere else you are signed out.'
  old.value = fresh.value = ''
  await load()
}
async function end(): Promise<void> {
  const { ok } = await ask(api.DELETE('/api/me/sessions'), 'You are still signed in elsewhere.')
  if (!ok) return
  done.value = 'You are signed out everywhere else.'
  await load()
}
</script>

<template>
  <div class="page">
    <h1 class="mb-4">{{ session.me?.name }}</h1>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <p v-if="done" role="status">{{ done }}</p>
    <section class="sheet part" aria-labelledby="reading-title">
      <h2 id="reading-title">Units and clock</h2>
      <ReadingFields />
    </section>
    <form class="sheet part" @submit.prevent="change">
      <h2>Change the password</h2>
      <TextField v-model="old" label="Current password" type="password" autocomplete="current-password" />
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
      <h2 id="places-title">Active sessions</h2>
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
