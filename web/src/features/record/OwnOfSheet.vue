<script setup lang="ts">
import { computed } from 'vue'
import type { Product, RecordLearnt } from '../../api/client'
import { useSession } from '../../session/session'
import { estimateWords, restsOn, whatWords } from './own'
import { useOwnFloors } from './useOwnFloors'

/** What own floors show of a product, beside its sheet: nothing of it is written over the sheet. */
const props = defineProps<{ product: string; sheet: Pick<Product, 'mixing' | 'kits'> }>()
const session = useSession()
const floors = useOwnFloors()
const groups = computed(() => floors.value.filter((l) => l.product === props.product))
const titleOf = (l: RecordLearnt): string =>
  [
    [l.method?.replaceAll('-', ' '), l.surface].filter(Boolean).join(', '),
    l.crew || 'all crews',
    l.jobs === 1 ? '1 job' : `${l.jobs} jobs`,
  ]
    .filter(Boolean)
    .join(' · ')
/** What a ratio or a spread makes of the figure of the sheet. */
function made(e: RecordLearnt['estimates'][number]): string {
  if (e.what === 'mixing' && props.sheet.mixing)
    return `${session.format('span', props.sheet.mixing.value * e.value)} where ${session.format('span', props.sheet.mixing.value)} are printed`
  const kit = props.sheet.kits?.find((k) => k.volume && !k.gone)
  if (e.what === 'covered' && kit?.volume)
    return `${session.format('area', e.value * kit.volume)} of ${kit.name}`
  return ''
}
</script>

<template>
  <section v-if="session.mayEdit" data-test="own-of-sheet">
    <h2>Own floors</h2>
    <p v-if="groups.length === 0" class="quiet small">
      None yet. From the record of each job its times, weights, films and pails are compared with the plan.
    </p>
    <div v-for="l in groups" :key="[l.method, l.surface, l.crew].join('/')" class="small">
      <b>{{ titleOf(l) }}</b>
      <ul>
        <li v-for="e in l.estimates" :key="e.what">
          {{ whatWords[e.what] }}: {{ estimateWords(e, session.format)
          }}<template v-if="made(e)">: {{ made(e) }}</template>
          <span class="quiet">, {{ restsOn(e) }}</span>
        </li>
        <li v-for="b in l.byHeat ?? []" :key="b.estimate.what + b.from">
          slab {{ session.format('temperature', b.from) }} to {{ session.format('temperature', b.until) }}:
          {{ whatWords[b.estimate.what] }} {{ estimateWords(b.estimate, session.format) }}
        </li>
        <li v-for="p in l.byProfile ?? []" :key="p.profile">
          profile {{ p.profile }}: covered {{ estimateWords(p.estimate, session.format) }}
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
h2 {
  font-size: 1.05rem;
  margin-bottom: 4px;
}
ul {
  padding-left: 18px;
  margin: 4px 0 10px;
}
</style>
