<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { computed, ref } from 'vue'
import { api, refusal, type Colleague } from '../../api/client'
import { useSession } from './session'

type Role = Colleague['role']
const session = useSession()
const people = ref<Colleague[] | null>(null)
const trouble = ref('')
const done = ref('')
const owner = computed(() => session.me?.role === 'owner')
const roles: Record<Role, string> = {
  owner: 'owner: everything, and people',
  estimator: 'estimator: edits jobs',
  lead: 'lead: edits jobs on site',
  hand: 'hand: reads jobs and cards',
}
const entry = ref({ name: '', email: '', role: 'hand' as Role, password: '' })

async function load(): Promise<void> {
  try {
    const { data, error } = await api.GET('/api/people')
    if (data) people.value = data
    else trouble.value = refusal(error, 'The people cannot be read.')
  } catch {
    trouble.value = 'The server does not answer. Try again when the connection is back.'
  }
}
void load()

async function add(): Promise<void> {
  done.value = ''
  const { data, error } = await api.POST('/api/people', { body: entry.value })
  trouble.value = data ? '' : refusal(error, 'The person was not added.')
  if (!data) return
  done.value = `${data.name} can sign in now.`
  entry.value = { name: '', email: '', role: 'hand', password: '' }
  await load()
}

async function change(p: Colleague, role: Role, active: boolean): Promise<void> {
  const { error } = await api.PUT('/api/people/{person}', {
    params: { path: { person: p.id } },
    body: { role, active },
  })
  trouble.value = error ? refusal(error, 'Nothing was changed.') : ''
  await load()
}
</script>

<template>
  <div class="page">
    <h1 class="mb-4">People of {{ session.me?.company }}</h1>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <p v-if="done" role="status">{{ done }}</p>
    <p v-if="people === null && !trouble" class="quiet">Reading the people …</p>
    <div v-if="people" class="sheet list">
      <table class="figures">
        <thead>
          <tr>
            <th>Name</th>
            <th>E-mail address</th>
            <th>Role</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in people" :key="p.id">
            <td>{{ p.name }}</td>
            <td>{{ p.email }}</td>
            <td>
              <select
                v-if="owner"
                class="control"
                :value="p.role"
                :aria-label="`Role of ${p.name}`"
                @change="change(p, ($event.target as HTMLSelectElement).value as Role, p.active)"
              >
                <option v-for="(text, r) in roles" :key="r" :value="r">{{ text }}</option>
              </select>
              <template v-else>{{ roles[p.role] }}</template>
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
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <form v-if="owner" class="sheet add" @submit.prevent="add">
      <h2>Add someone</h2>
      <TextField v-model="entry.name" label="Name" maxlength="120" />
      <TextField v-model="entry.email" label="E-mail address" type="email" />
      <TextField
        v-model="entry.password"
        label="First password, at least 10 characters"
        type="password"
        autocomplete="new-password"
      />
      <select v-model="entry.role" class="control" aria-label="Role of the new person">
        <option v-for="(text, r) in roles" :key="r" :value="r">{{ text }}</option>
      </select>
      <div><v-btn type="submit" color="primary" variant="flat">Add</v-btn></div>
    </form>
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
.trouble {
  color: var(--stop);
  font-weight: 600;
}
</style>
