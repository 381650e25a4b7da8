<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api, type FactorBegun, type FactorState } from '../../api/client'
import TickField from '../../fields/TickField.vue'
import ScanCode from '../../drawing/ScanCode.vue'
import TextField from '../../fields/TextField.vue'
import { useSession } from '../../session/session'

/** The second factor of one's own: set up, with what to keep for the day the device is lost. */
const session = useSession()
const state = ref<FactorState>()
const begun = ref<FactorBegun>()
const recovery = ref<string[]>([])
const password = ref('')
const code = ref('')
const { trouble, ask } = useRequest()

async function load(): Promise<void> {
  const { data } = await ask(api.GET('/api/me/factor'), 'Your second factor cannot be read.')
  if (data) state.value = data
}
void load()
async function begin(): Promise<void> {
  const { data } = await ask(
    api.POST('/api/me/factor', { body: { password: password.value } }),
    'The set-up could not be started.',
  )
  begun.value = data
}
async function confirm(): Promise<void> {
  const { data } = await ask(
    api.PUT('/api/me/factor', { body: { code: code.value } }),
    'The second factor was not set up.',
  )
  if (!data) return
  recovery.value = data.recovery
  begun.value = undefined
  password.value = code.value = ''
  await session.ask()
  await load()
}
async function remove(): Promise<void> {
  const { ok } = await ask(
    api.POST('/api/me/factor/removed', { body: { password: password.value } }),
    'The second factor was not removed.',
  )
  if (!ok) return
  password.value = ''
  await load()
}
async function wantOfAll(wanted: boolean): Promise<void> {
  const given = password.value !== ''
  const sure = await ask(
    api.POST('/api/me/confirmation', { body: { password: password.value } }),
    'The requirement was not changed.',
  )
  if (sure.ok) {
    password.value = ''
    await ask(api.PUT('/api/company/factor', { body: { wanted } }), 'The requirement was not changed.')
  } else if (!given) trouble.value = 'Enter your password above, then choose this again.'
  const said = trouble.value
  await load()
  trouble.value = said
}
const spaced = computed(() => begun.value?.secret.replace(/(.{4})/g, '$1 ').trim())
</script>

<template>
  <section class="sheet factor" aria-labelledby="factor-title" data-test="factor">
    <h2 id="factor-title">Second factor</h2>
    <p v-if="session.me?.factorDue" class="trouble">
      {{ session.me.company }} requires a second factor of everybody. Set one up to go on.
    </p>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <div v-if="recovery.length" role="status" data-test="recovery">
      <p>
        Set up. Keep these recovery codes away from your device, on paper: each signs in once in place of a
        code. They are not shown again.
      </p>
      <ul class="codes">
        <li v-for="c in recovery" :key="c">
          <code>{{ c }}</code>
        </li>
      </ul>
    </div>
    <form v-if="begun" @submit.prevent="confirm">
      <p>Scan this with an authenticator, or type the secret into it; then enter the code that it shows.</p>
      <ScanCode class="square" :text="begun.address" label="The secret as a code to scan" />
      <p>
        <code data-test="secret">{{ spaced }}</code>
      </p>
      <TextField v-model="code" label="Code that it shows" autocomplete="one-time-code" />
      <div><v-btn type="submit" color="primary" variant="flat">Set it up</v-btn></div>
    </form>
    <form v-else-if="state" @submit.prevent="begin">
      <p v-if="state.set">
        Signing in asks for a code of your authenticator. {{ state.recovery }} recovery codes are left.
      </p>
      <p v-else>
        Not set. With it, whoever learns your password still cannot sign in: a code of an authenticator on
        your phone is asked for, too.
      </p>
      <TextField v-model="password" label="Your password" type="password" autocomplete="current-password" />
      <div class="row">
        <v-btn type="submit" color="primary" variant="flat">{{
          state.set ? 'Set up another in its place' : 'Set up a second factor'
        }}</v-btn>
        <v-btn v-if="state.set && !state.wanted" @click="remove">Remove it</v-btn>
      </div>
    </form>
    <TickField
      v-if="session.me?.role === 'owner' && state"
      :label="`Everybody of ${session.me.company} has to have one`"
      :model-value="state.wanted"
      @update:model-value="wantOfAll"
    />
  </section>
</template>

<style scoped>
.factor,
form {
  display: grid;
  gap: 12px;
}
.square {
  width: 200px;
}
.codes {
  columns: 2;
  padding-left: 20px;
  margin: 0;
}
.trouble {
  color: var(--stop);
  font-weight: 600;
}
</style>
