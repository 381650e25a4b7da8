<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Assumed } from '../../api/client'
import { dataOf } from '../../api/useRequest'
import FoldPanel from '../../fields/FoldPanel.vue'
import { useDesk } from '../job/useEditor'
import { money } from '../../session/units'
import { useSession } from '../../session/session'

/** What the plan rests on although nobody measured it, and what it becomes at the ends of the usual range. */
const desk = useDesk()
const session = useSession()
const open = ref(false)
const found = ref<Assumed[]>()
const trouble = ref('')
const HOUR = 3600

async function ask(): Promise<void> {
  open.value = true
  trouble.value = ''
  try {
    found.value = await dataOf(
      api.GET('/api/jobs/{job}/assumptions', { params: { path: { job: desk.jobId } } }),
    )
  } catch {
    trouble.value = 'The server does not answer. Open this again when it is back.'
  }
}
/** What is saved is tried: the plan as it stood when this was opened is told apart from a later one. */
watch(
  () => desk.plan.value,
  () => (found.value = undefined),
)
type End = Assumed['ends'][number]
const some = (n: number, one: string, many: string): string =>
  n === 0 ? '' : `${n > 0 ? '+' : '−'}${Math.abs(n)} ${Math.abs(n) === 1 ? one : many}`
function effect(e: End): string {
  const later = Math.abs(e.ready ?? 0) / HOUR
  const parts = [
    some(e.kits, 'kit', 'kits'),
    e.cost ? `${e.cost > 0 ? '+' : '−'}${money(Math.abs(e.cost), desk.file.value.job.currency)}` : '',
    some(e.batches, 'batch', 'batches'),
    e.ready ? `walked on ${session.format('number', later)} h ${e.ready > 0 ? 'later' : 'earlier'}` : '',
  ].filter(Boolean)
  return parts.length > 0 ? parts.join(', ') : e.troubles.length > 0 ? '' : 'changes nothing'
}
const rows = computed(() => found.value ?? [])
</script>

<template>
  <FoldPanel class="mt-4" data-test="assumed" @opened="ask">
    <template #title>What the plan rests on without a measurement</template>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <v-btn v-else-if="open && !found" size="small" variant="text" @click="ask">Try it with this plan</v-btn>
    <p v-else-if="found && rows.length === 0" class="quiet">
      Every value that it needs is from a sheet, a standard or your own tests.
    </p>
    <div v-else-if="found" class="scroll" tabindex="0" role="region" aria-label="Assumed values">
      <table class="figures">
        <thead>
          <tr>
            <th>Assumed</th>
            <th class="num">Planned with</th>
            <th colspan="2">At the ends of its usual range</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="a in rows" :key="a.name">
            <td>{{ a.name }}</td>
            <td class="num">{{ session.format(a.kind, a.value) }}</td>
            <td v-for="e in a.ends" :key="e.value">
              <b>{{ session.format(a.kind, e.value) }}</b>: {{ effect(e) }}
              <span v-for="t in e.troubles" :key="t" class="trouble small">{{ t }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </FoldPanel>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.trouble {
  display: block;
  color: var(--warn);
}
</style>
