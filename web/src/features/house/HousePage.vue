<script setup lang="ts">
import { computed } from 'vue'
import type { School, Schools } from '../../api/client'
import TickField from '../../fields/TickField.vue'
import FieldGrid from '../../fields/FieldGrid.vue'
import type { Field } from '../../fields/grid'
import HoursFields from '../job/HoursFields.vue'
import { useSession } from '../../session/session'
import { useHouseEdits } from './useHouseEdits'

const session = useSession()
const { house, schools, trouble, state, past, ready, change, undo } = useHouseEdits()
const PLAIN_CREW = { spreaders: 2, pace: { value: 0.0125, source: 'rule-of-thumb' } } as const
const PLAIN_BUCKET = { volume: 0.02, headroom: 0.2 }

function chosen(s: School): string {
  const own = house.value.methods?.[s.id as keyof Schools]
  return typeof own === 'string' ? own : (s.choices[0]?.value ?? '')
}
function choose(s: School, value: string): void {
  const methods = { ...house.value.methods, [s.id]: value === s.choices[0]?.value ? undefined : value }
  change({ methods: methods as Schools })
}
const crew = computed(() => house.value.crew ?? PLAIN_CREW)
const bucket = computed(() => house.value.bucket ?? PLAIN_BUCKET)
const fields = computed<Field[]>(() => [
  {
    as: 'number',
    label: 'People spreading',
    value: crew.value.spreaders,
    whole: true,
    least: 1,
    most: 50,
    take: (n) => n && change({ crew: { ...crew.value, spreaders: n } }),
  },
  {
    as: 'quantity',
    kind: 'pace',
    label: 'Pace of one person',
    value: crew.value.pace.value,
    positive: true,
    take: (value) => change({ crew: { ...crew.value, pace: { value, source: 'own-test' } } }),
  },
  {
    as: 'quantity',
    kind: 'volume',
    label: 'Bucket, to the brim',
    value: bucket.value.volume,
    positive: true,
    take: (volume) => change({ bucket: { ...bucket.value, volume } }),
  },
  {
    as: 'quantity',
    kind: 'content',
    label: 'VOC limit',
    told: house.value.vocMax ? '0 = no limit' : 'none',
    value: house.value.vocMax?.value,
    take: (value) => change({ vocMax: value > 0 ? { value, source: 'standard' } : undefined }),
  },
  {
    as: 'quantity',
    kind: 'temperature',
    label: 'Planned slab temperature',
    told: house.value.slab ? '' : '20 °C, assumed',
    value: house.value.slab?.value,
    take: (value) => change({ slab: { value, source: 'own-test' } }),
  },
  {
    as: 'name',
    label: 'Time zone',
    told: "As IANA names it; this device's when left out",
    value: house.value.zone,
    take: (v) => change({ zone: v || undefined }),
  },
  {
    as: 'name',
    label: 'Currency, three letters',
    value: house.value.currency,
    take: (v) => change({ currency: v.toUpperCase() || undefined }),
  },
  {
    as: 'number',
    label: 'Cost of a person-hour',
    value: house.value.hourCost,
    least: 0,
    most: 10_000,
    take: (n) => change({ hourCost: n }),
  },
  {
    as: 'quantity',
    kind: 'fraction',
    label: 'Overtime surcharge',
    told: house.value.overtimeMore === undefined ? 'half, common practice' : '',
    value: house.value.overtimeMore,
    take: (n) => change({ overtimeMore: n }),
  },
])
</script>

<template>
  <div class="page">
    <div class="row mb-2">
      <h1 class="grow">Company standards</h1>
      <span class="small quiet" aria-live="polite" data-test="house-state">{{
        state === 'saving' ? 'saving …' : state === 'saved' ? 'saved' : ''
      }}</span>
      <v-btn v-if="session.mayKeep" size="small" :disabled="past.length === 0" @click="undo">Undo</v-btn>
    </div>
    <p class="mb-4">
      Where practice differs, choose how your company works. New jobs start from these settings and can change
      them; existing jobs keep their own.
    </p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-if="!ready && !trouble" class="quiet">Reading …</p>
    <template v-if="ready">
      <section class="sheet start">
        <h2>Defaults for new jobs</h2>
        <FieldGrid :fields="fields" :columns="3" :locked="!session.mayKeep" />
        <HoursFields
          class="mt-3 mb-3"
          :hours="house.hours"
          :locked="!session.mayKeep"
          @change="change({ hours: $event })"
        />
        <TickField
          label="Acid may be used in pools and on plaster. The other practice is to grind only: acid soaks in, must be neutralised completely, and stains the paint."
          :model-value="house.methods?.acidInPool"
          :disabled="!session.mayKeep"
          @update:model-value="change({ methods: { ...house.methods, acidInPool: $event || undefined } })"
        />
      </section>
      <div class="schools">
        <fieldset
          v-for="s in schools"
          :key="s.id"
          class="sheet school"
          :disabled="!session.mayKeep"
          :data-test="`school-${s.id}`"
        >
          <legend>{{ s.title }}</legend>
          <v-radio-group
            :model-value="chosen(s)"
            :disabled="!session.mayKeep"
            :aria-label="s.title"
            hide-details
            @update:model-value="choose(s, String($event))"
          >
            <v-radio
              v-for="c in s.choices"
              :key="c.value"
              :value="c.value"
              :class="{ on: chosen(s) === c.value }"
            >
              <template #label>
                <span>
                  <strong>{{ c.name }}</strong>
                  <span class="small"
                    >{{ c.reason }} <span class="quiet">{{ c.consequence }}</span></span
                  >
                </span>
              </template>
            </v-radio>
          </v-radio-group>
        </fieldset>
      </div>
      <p class="small quiet mt-3">
        All of it is common practice without a published source. Data sheets, local codes and licensed
        practice rule.
      </p>
    </template>
  </div>
</template>

<style scoped>
.start {
  padding: 14px 18px;
  margin-bottom: 16px;
}
.schools {
  columns: 2;
  column-gap: 16px;
}
.school {
  break-inside: avoid;
  padding: 10px 14px 12px;
  margin: 0 0 14px;
}
legend {
  font-weight: 700;
  padding: 0 6px;
}
.school :deep(.v-radio) {
  align-items: start;
  padding: 4px 8px 4px 4px;
  border-left: 4px solid transparent;
}
.school :deep(.v-radio.on) {
  border-left-color: var(--cure);
  background: var(--faint);
}
strong,
.small {
  display: block;
}
.small .quiet {
  display: inline;
}
@media (max-width: 800px) {
  .schools {
    columns: 1;
  }
}
</style>
