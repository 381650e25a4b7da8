<script setup lang="ts">
import { useList } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api, type CalendarAddress } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import PartsNav from '../../shell/PartsNav.vue'
import { useHouse } from '../house/store'

/** Private addresses at which a calendar program reads a crew's days, until they are revoked. */
const house = useHouse()
void house.load()
const crews = computed(() => house.house.crews ?? [])
const made = ref('')
const whom = ref('')
/** A person is told from a crew by this. */
const OF = 'person '
const people = computed(() =>
  Object.fromEntries(crews.value.flatMap((c) => c.members ?? []).map((name) => [OF + name, name])),
)
const {
  list: links,
  trouble,
  change,
} = useList(() => api.GET('/api/calendar-addresses'), 'The addresses cannot be read.')

async function add(): Promise<void> {
  const { data } = await change(
    api.POST('/api/calendar-addresses', {
      body: whom.value.startsWith(OF)
        ? { person: whom.value.slice(OF.length) }
        : { crew: whom.value || undefined },
    }),
    'The address was not created.',
  )
  if (data?.path) made.value = new URL(data.path, location.href).href
}
async function revoke(of: CalendarAddress): Promise<void> {
  made.value = ''
  await change(
    api.DELETE('/api/calendar-addresses/{address}', { params: { path: { address: of.id } } }),
    'The address was not revoked.',
  )
}
const whose = (l: CalendarAddress): string =>
  l.person ?? crews.value.find((c) => c.id === l.crew)?.name ?? 'Everybody'
</script>

<template>
  <div class="page" data-test="calendar-links">
    <h1 class="mb-2">Calendar subscriptions</h1>
    <PartsNav of="people" />
    <p class="small quiet">
      A calendar app can read the bookings from a private address. Anyone who has the address can read them;
      revoke it if it gets into the wrong hands.
    </p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <div class="row mt-2">
      <PickField
        v-model="whom"
        class="pick"
        label="Bookings of"
        open
        none="Everybody"
        :options="Object.fromEntries(crews.map((c) => [c.id, c.name]))"
        :groups="[{ title: 'One person', options: people }]"
      />
      <v-btn size="small" data-test="make-address" @click="add">Create an address</v-btn>
    </div>
    <p v-if="made" class="small mt-2" data-test="made-address">
      Shown once. Copy this link into your calendar app: <code>{{ made }}</code>
    </p>
    <ul v-if="(links ?? []).length > 0" class="small mt-2">
      <li v-for="l in links ?? []" :key="l.id">
        {{ whose(l) }}, created by {{ l.madeBy }}
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
  </div>
</template>

<style scoped>
code {
  overflow-wrap: anywhere;
}
</style>
