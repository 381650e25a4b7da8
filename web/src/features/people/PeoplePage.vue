<script setup lang="ts">
import { useList } from '../../api/useRequest'
import PickField from '../../fields/PickField.vue'
import TextField from '../../fields/TextField.vue'
import { dayTime } from '../../fields/clock'
import { computed, ref } from 'vue'
import { api, type Colleague, type PasswordLink } from '../../api/client'
import AuditList from './AuditList.vue'
import CompanyData from './CompanyData.vue'
import RecordLog from './RecordLog.vue'
import PartsNav from '../../shell/PartsNav.vue'
import RightsTable from './RightsTable.vue'
import { useSession } from '../../session/session'

type Role = Colleague['role']
const session = useSession()
const {
  list: people,
  trouble,
  ask,
  change: send,
} = useList(() => api.GET('/api/people'), 'The people cannot be read.')
const done = ref('')
const owner = computed(() => session.me?.role === 'owner')
const roles: Record<Role, string> = {
  owner: 'owner: everything, and people',
  estimator: 'estimator: plans and issues',
  lead: 'lead: runs days, edits jobs',
  hand: 'hand: works and logs the day',
}
const entry = ref({ name: '', email: '', role: 'hand' as Role })

async function add(): Promise<void> {
  done.value = ''
  const { data } = await send(
    api.POST('/api/people', { body: entry.value }),
    'The person was not added.',
    'The server does not answer. When it is back, open this page again and look whether they were added.',
  )
  if (!data) return
  hand(data.name, data.link)
  entry.value = { name: '', email: '', role: 'hand' }
}

/** A link to hand over: whoever has it sets the password, once. */
const link = ref<{ name: string; address: string; until: string; sent: boolean }>()
function hand(name: string, made: PasswordLink): void {
  link.value = { name, address: location.origin + made.path, until: made.until, sent: made.sent }
}
async function again(p: Colleague): Promise<void> {
  const { data } = await ask(
    api.POST('/api/people/{person}/password-link', { params: { path: { person: p.id } } }),
    'The link was not created.',
  )
  if (data) hand(p.name, data)
}
async function forget(p: Colleague): Promise<void> {
  await send(
    api.PUT('/api/people/{person}/forgotten', { params: { path: { person: p.id } } }),
    'Nothing was removed.',
  )
}

async function change(p: Colleague, role: Role, active: boolean): Promise<void> {
  await send(
    api.PUT('/api/people/{person}', {
      params: { path: { person: p.id }, query: { base: p.revision } },
      body: { role, active },
    }),
    'Nothing was changed.',
  )
}
async function dropFactor(p: Colleague): Promise<void> {
  await send(
    api.PUT('/api/people/{person}/factor-removed', { params: { path: { person: p.id } } }),
    'Nothing was changed.',
  )
}
</script>

<template>
  <div class="page">
    <h1 class="mb-2">People of {{ session.me?.company }}</h1>
    <PartsNav of="people" />
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <p v-if="done" role="status">{{ done }}</p>
    <p v-if="link" role="status" class="sheet link" data-test="link">
      <template v-if="link.sent">Sent to {{ link.name }}. It is the same link: </template>
      <template v-else>Hand this link to {{ link.name }}; </template>it sets the password, once, until
      {{ dayTime(link.until) }}:
      <code>{{ link.address }}</code>
    </p>
    <p v-if="people === null && !trouble" class="quiet">Reading the people …</p>
    <div v-if="people" class="sheet list">
      <table class="figures">
        <thead>
          <tr>
            <th>Name</th>
            <th>E-mail address</th>
            <th>Role</th>
            <th>Second factor</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in people" :key="p.id">
            <td>{{ p.name }}</td>
            <td>{{ p.email }}</td>
            <td>
              <PickField
                v-if="owner"
                bare
                open
                :label="`Role of ${p.name}`"
                :model-value="p.role"
                :options="roles"
                @update:model-value="change(p, $event as Role, p.active)"
              />
              <template v-else>{{ roles[p.role] }}</template>
            </td>
            <td>
              {{ p.factor ? 'set' : '–' }}
              <v-btn
                v-if="owner && p.factor && p.id !== session.me?.id"
                size="small"
                variant="text"
                :aria-label="`Remove the second factor of ${p.name}, whose device is lost`"
                @click="dropFactor(p)"
                >Remove</v-btn
              >
            </td>
            <td>
              <v-btn
                v-if="owner && p.id !== session.me?.id"
                size="small"
                variant="text"
                @click="change(p, p.role, !p.active)"
              >
                {{ p.active ? 'Close the account' : 'Open it again' }}
              </v-btn>
              <span v-else-if="!p.active" class="quiet">closed</span>
              <v-btn
                v-if="owner && p.active && p.id !== session.me?.id"
                size="small"
                variant="text"
                :aria-label="`New password link for ${p.name}`"
                @click="again(p)"
                >New password link</v-btn
              >
              <v-btn
                v-if="owner && !p.active"
                size="small"
                variant="text"
                :aria-label="`Remove the personal data of ${p.name}`"
                @click="forget(p)"
                >Remove personal data</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <form v-if="owner" class="sheet add" @submit.prevent="add">
      <h2>Add someone</h2>
      <TextField v-model="entry.name" label="Name" maxlength="120" />
      <TextField v-model="entry.email" label="E-mail address" type="email" />
      <PickField v-model="entry.role" label="Role" :options="roles" />
      <div><v-btn type="submit" color="primary" variant="flat">Add</v-btn></div>
    </form>
    <CompanyData v-if="owner" />
    <RightsTable v-if="owner" />
    <RecordLog v-if="owner" />
    <AuditList v-if="owner" />
  </div>
</template>

<style scoped>
.list {
  padding: 6px 18px;
  margin-bottom: 20px;
  overflow-x: auto;
}
.add {
  padding: 20px;
  display: grid;
  gap: 12px;
  max-width: 480px;
}
.link {
  padding: 12px 16px;
}
code {
  user-select: all;
  overflow-wrap: anywhere;
}
.trouble {
  color: var(--stop);
  font-weight: 600;
}
</style>
