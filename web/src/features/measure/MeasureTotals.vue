<script setup lang="ts">
import { computed } from 'vue'
import type { Takeoff } from '../../api/client'
import { useSession } from '../../session/session'
import FigureButton from '../../fields/FigureButton.vue'

const props = defineProps<{ takeoff: Takeoff; title: string; around: string }>()
const session = useSession()
const rows = computed(() => {
  const t = props.takeoff
  const area = (v: number): string => session.format('area', v)
  const length = (v: number): string => session.format('length', v)
  const split = t.facing.steep > 0 || t.facing.vertical > 0
  return [
    { words: props.around, value: length(t.perimeter), shown: t.perimeter > 0, test: 'perimeter' },
    { words: 'Of it, edges and steps', value: area(t.parts), shown: t.parts > 0 },
    { words: 'Around columns and cut-outs', value: length(t.holeEdge), shown: t.holeEdge > 0 },
    {
      words: 'Level or nearly, to 20°',
      value: area(t.facing.level),
      shown: split && t.facing.level > 0,
      test: 'level',
    },
    { words: 'Steep, 20 to 70°', value: area(t.facing.steep), shown: t.facing.steep > 0, test: 'steep' },
    { words: 'Upright', value: area(t.facing.vertical), shown: t.facing.vertical > 0, test: 'upright' },
    { words: 'Poured edges', value: length(t.exposed ?? 0), shown: !!t.exposed, test: 'exposed' },
    { words: 'Run-off over them, as area', value: area(t.runOff ?? 0), shown: !!t.runOff },
    {
      words: 'Water it holds',
      value: session.format('volume', t.water ?? 0),
      shown: !!t.water,
      test: 'water',
    },
    ...(t.zones ?? []).map((z) => ({ words: z.name, value: area(z.area), shown: true, test: 'zone' })),
  ].filter((r) => r.shown)
})
</script>

<template>
  <dl class="totals">
    <div class="first">
      <dt>{{ title }}</dt>
      <dd data-test="area">
        <FigureButton :workings="[takeoff.working, ...(takeoff.partWorkings ?? [])]">{{
          session.format('area', takeoff.area)
        }}</FigureButton>
      </dd>
    </div>
    <div v-for="r in rows" :key="r.words">
      <dt>{{ r.words }}</dt>
      <dd :data-test="r.test">{{ r.value }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.totals {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 22px;
}
.totals .first {
  grid-column: 1 / -1;
}
.totals div {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 1px solid var(--faint);
  padding-bottom: 4px;
}
.totals dd {
  font-weight: 640;
  white-space: nowrap;
}
.totals .first dd {
  font-size: 1.35rem;
  font-weight: 680;
}
</style>
