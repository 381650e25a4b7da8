<script setup lang="ts">
import { ref } from 'vue'
import { dataOf } from '../../api/useRequest'
import { api, type RecordLearnt } from '../../api/client'
import { spokenDay } from '../../fields/clock'
import { useSession } from '../../session/session'
import PaceEffects from './PaceEffects.vue'
import { estimateWords, restsOn, whatWords } from './own'

/** What own floors show of each product against what was planned; taken over only where somebody says so. */
const emit = defineEmits<{ found: [count: number] }>()
const session = useSession()
const learnt = ref<RecordLearnt[]>([])
const tried = ref<RecordLearnt>()
const open = ref(false)
async function load(): Promise<void> {
  learnt.value = (await dataOf(api.GET('/api/learnt'))) ?? []
  emit('found', learnt.value.length)
}
void load()
function tryOut(l: RecordLearnt): void {
  tried.value = l
  open.value = true
}
const offered = (l: RecordLearnt): boolean =>
  Boolean(l.pace && l.method) && l.estimates.some((e) => e.what === 'pace' && e.offered)
</script>

<template>
  <section class="sheet part" aria-labelledby="learnt-title" data-test="learnt">
    <h2 id="learnt-title">Own floors</h2>
    <div class="scroll" tabindex="0" role="region" aria-label="Own floors">
      <table class="figures">
        <thead>
          <tr>
            <th>Product</th>
            <th>Crew</th>
            <th>Jobs</th>
            <th>Shown against the plan</th>
            <th>Pace of one person</th>
            <th><span class="hidden">Use</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in learnt" :key="[l.product, l.method, l.surface, l.crew].join('/')">
            <td>
              {{ l.name }}
              <span class="small quiet">{{
                [l.method?.replaceAll('-', ' '), l.surface?.replaceAll('-', ' ')].filter(Boolean).join(', ')
              }}</span>
            </td>
            <td>{{ l.crew || 'all crews' }}</td>
            <td>
              {{ l.jobs }} <span class="small quiet">last {{ spokenDay(l.last) }}</span>
            </td>
            <td>
              <div v-for="e in l.estimates" :key="e.what">
                {{ whatWords[e.what] }}: {{ estimateWords(e, session.format) }}
                <span class="small quiet">{{ restsOn(e) }}</span>
              </div>
              <div v-for="b in l.byHeat ?? []" :key="b.estimate.what + b.from" class="small quiet">
                slab {{ session.format('temperature', b.from) }} to
                {{ session.format('temperature', b.until) }}: {{ whatWords[b.estimate.what] }}
                {{ estimateWords(b.estimate, session.format) }}
              </div>
              <div v-for="p in l.byProfile ?? []" :key="p.profile" class="small quiet">
                profile {{ p.profile }}: covered {{ estimateWords(p.estimate, session.format) }}
              </div>
            </td>
            <td>{{ l.pace ? session.format('pace', l.pace) : '' }}</td>
            <td>
              <v-btn
                v-if="session.mayKeep && offered(l)"
                size="small"
                :aria-label="`Open jobs with ${l.name} at the pace of ${l.crew || 'all crews'}`"
                data-test="try-pace"
                @click="tryOut(l)"
                >What it changes</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="small quiet">
      Medians over jobs, with the least and the greatest job. Nothing is applied by itself: from three jobs on
      a pace is offered for the open jobs here, and each figure beside the field that it belongs to: pace
      under Batches, loss, coverage and broadcasting under Build-up. It goes to coats of this product alone,
      as an own test; the data sheet stays as it is.
    </p>
    <PaceEffects v-if="tried" v-model="open" :learnt="tried" />
  </section>
</template>

<style scoped>
.part {
  padding: 16px 18px;
}
td {
  vertical-align: top;
}
</style>
