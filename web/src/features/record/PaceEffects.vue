<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, refusal, type PaceEffect, type RecordLearnt } from '../../api/client'
import { useRequest } from '../../api/useRequest'
import { dayTime } from '../../fields/clock'
import TickField from '../../fields/TickField.vue'
import { useSession } from '../../session/session'

/** What the pace of own floors would change in each open job, before it is taken. */
const { learnt } = defineProps<{ learnt: RecordLearnt }>()
const open = defineModel<boolean>({ required: true })
const session = useSession()
const { trouble, busy, ask } = useRequest()
const effects = ref<PaceEffect[]>()
const chosen = ref<Record<string, boolean>>({})
const said = ref<Record<string, string>>({})

watch(
  open,
  async (now) => {
    if (!now || !learnt.pace || !learnt.method || !learnt.surface) return
    effects.value = undefined
    chosen.value = {}
    said.value = {}
    const { data } = await ask(
      api.POST('/api/learnt/effects', {
        body: { product: learnt.product, method: learnt.method, surface: learnt.surface, pace: learnt.pace },
      }),
      'What it changes cannot be worked out.',
    )
    effects.value = data
  },
  { immediate: true },
)
const wanted = computed(() => (effects.value ?? []).filter((e) => chosen.value[e.job] && !said.value[e.job]))

async function take(): Promise<void> {
  for (const e of wanted.value) {
    const { data, error, response } = await api.PATCH('/api/jobs/{job}', {
      params: { path: { job: e.job } },
      body: { base: e.revision, saveId: crypto.randomUUID(), patch: e.patch },
    })
    const CONFLICT = 409
    said.value[e.job] = data
      ? 'Planned with it now'
      : response.status === CONFLICT
        ? 'Changed by somebody meanwhile; look at it again'
        : refusal(error, 'It was not saved.')
  }
}
const HOUR = 3600
function rows(e: PaceEffect): { name: string; before: string; after: string }[] {
  const hours = (f: PaceEffect['before']): string => `${session.format('number', f.effort / HOUR)} h`
  const all = [
    { name: 'Work', before: hours(e.before), after: hours(e.after) },
    {
      name: 'Batches',
      before: session.format('count', e.before.batches),
      after: session.format('count', e.after.batches),
    },
    {
      name: 'Kits',
      before: session.format('count', e.before.kits),
      after: session.format('count', e.after.kits),
    },
    {
      name: 'First use',
      before: e.before.ready ? dayTime(e.before.ready) : 'not known',
      after: e.after.ready ? dayTime(e.after.ready) : 'not known',
    },
  ]
  return all.filter((r) => r.before !== r.after)
}
</script>

<template>
  <v-dialog v-model="open" max-width="900" scrollable aria-label="What own floors would change">
    <div class="sheet pa-5 inner">
      <h2 class="mb-2">
        {{ learnt.name }} at {{ learnt.pace ? session.format('pace', learnt.pace) : '' }} a person
      </h2>
      <p class="quiet small mb-3">
        From {{ learnt.jobs }} jobs of {{ learnt.crew || 'all crews' }}. Nothing changes until you take it for
        the jobs you tick.
      </p>
      <p v-if="trouble" role="alert">{{ trouble }}</p>
      <v-progress-linear v-if="busy" indeterminate aria-label="Planning the open jobs" />
      <p v-if="effects?.length === 0" class="quiet">No open job lays this product in this way.</p>
      <table v-if="effects?.length" class="figures" data-test="pace-effects">
        <thead>
          <tr>
            <th>Job</th>
            <th>Coats</th>
            <th>What changes</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="e in effects" :key="e.job" :data-job="e.name">
            <td>
              <TickField v-if="!said[e.job]" v-model="chosen[e.job]" :label="e.name" />
              <template v-else>{{ e.name }}: {{ said[e.job] }}</template>
            </td>
            <td>{{ e.coats.join('; ') }}</td>
            <td>
              <div v-for="r in rows(e)" :key="r.name">{{ r.name }}: {{ r.before }} → {{ r.after }}</div>
              <div v-if="rows(e).length === 0" class="quiet">nothing that is shown</div>
              <b v-if="e.warnings > 0"
                >{{ e.warnings }} more {{ e.warnings === 1 ? 'warning' : 'warnings' }}</b
              >
              <span v-else-if="e.warnings < 0">{{ -e.warnings }} fewer warnings</span>
            </td>
          </tr>
        </tbody>
      </table>
      <div class="row mt-4">
        <v-btn :disabled="wanted.length === 0" data-test="take-pace" @click="take"
          >Plan the ticked jobs with it</v-btn
        >
        <v-btn variant="text" @click="open = false">Close</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.inner {
  overflow: auto;
}
td {
  vertical-align: top;
}
</style>
