<script setup lang="ts">
import { ref } from 'vue'
import { api, refusal, type CalendarAddress, type RosterView } from '../../api/client'

/** Private addresses at which a calendar program reads a crew's days, until they are revoked. */
const props = defineProps<{ crews: RosterView['crews'] }>()
const links = ref<CalendarAddress[]>([])
const made = ref('')
const whom = ref('')
/** A person is told from a crew by this. */
const OF = 'person '
const trouble = ref('')

async function load(): Promise<void> {
  const { data, error } = await api.GET('/api/calendar-addresses')
  if (data) links.value = data
  trouble.value = data ? '' : refusal(error, 'The addresses cannot be read.')
}
void load()
async function add(): Promise<void> {
  const { data, error } = await api.POST('/api/calendar-addresses', {
    body: whom.value.startsWith(OF)
      ? { person: whom.value.slice(OF.length) }
      : { crew: whom.value || undefined },
  })
  trouble.value = data ? '' : refusal(error, 'No address was made.')
  if (!data?.path) return
  made.value = new URL(data.path, location.href).href
  await load()
}
async function revoke(of: CalendarAddress): Promise<void> {
  const { error } = await api.DELETE('/api/calendar-addresses/{address}', {
    params: { path: { address: of.id } },
  })
  trouble.value = error ? refusal(error, 'It was not revoked.') : ''
  made.value = ''
  await load()
}
const whose = (l: CalendarAddress): string =>
  l.person ?? props.crews.find((c) => c.id === l.crew)?.name ?? 'Everybody'
</script>

<template>
  <section aria-labelledby="links-title" data-test="calendar-links">
    <h2 id="links-title">Calendar subscriptions</h2>
    <p class="small quiet">
      A calendar program reads what is booked at a private address. Whoever has the address can read it;
      revoke it when it gets into wrong hands.
    </p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <div class="row mt-2">
      <select v-model="whom" class="control pick" aria-label="Whose days">
        <option value="">Everybody</option>
        <option v-for="c in crews" :key="c.id" :value="c.id">{{ c.name }}</option>
        <template v-for="c in crews" :key="`people of ${c.id}`">
          <option v-for="name in c.members ?? []" :key="name" :value="OF + name">{{ name }}</option>
        </template>
      </select>
      <v-btn size="small" data-test="make-address" @click="add">Make an address</v-btn>
    </div>
    <p v-if="made" class="small mt-2" data-test="made-address">
      Shown once. Copy this link into your calendar app: <code>{{ made }}</code>
    </p>
    <ul v-if="links.length > 0" class="small mt-2">
      <li v-for="l in links" :key="l.id">
        {{ whose(l) }}, made by {{ l.madeBy }}
        <button
          type="button"
          class="plain"
          :aria-label="`Revoke the address of ${whose(l)}`"
          @click="revoke(l)"
        >
          Revoke
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.pick {
  width: auto;
}
code {
  overflow-wrap: anywhere;
}
</style>
