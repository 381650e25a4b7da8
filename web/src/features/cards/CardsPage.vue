<script setup lang="ts">
import { useEventListener, useLocalStorage, useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Card, CoatPlan, Surface, SurfacePlan } from '../../api/client'
import PickField from '../../fields/PickField.vue'
import TickField from '../../fields/TickField.vue'
import { isTyping } from '../../fields/typing'
import { usePlannedJob } from '../job/usePlannedJob'
import IssueMark from './IssueMark.vue'
import MixCard from './MixCard.vue'
import SectionSheet from './SectionSheet.vue'
import { equalBatches, ranges } from './sheets'

/** Mix cards: an index of them, one on screen, and those that are ticked on paper. */
const props = defineProps<{ id: string }>()
interface Sheet {
  id: string
  title: string
  /** Batches that are mixed alike; none on the sheet of the sections. */
  cards: Card[]
}
interface CoatSheets {
  surface: Surface
  plan: SurfacePlan
  coat: CoatPlan
  sheets: Sheet[]
}

const { job, trouble, issues } = usePlannedJob(props.id)
const merged = useLocalStorage('nephelon.cards.merged', false)
const at = ref('')
/** What is not printed. */
const left = ref<Set<string>>(new Set())
const printing = ref(false)
const phone = useMediaQuery('(max-width: 1060px)')

const coats = computed<CoatSheets[]>(() =>
  (job.value?.plan.surfaces ?? []).flatMap((plan) => {
    const surface = job.value?.file.job.surfaces.find((s) => s.id === plan.id)
    if (!surface) return []
    return plan.coats
      .filter((c) => (c.cards?.length ?? 0) > 0)
      .map((coat) => {
        const cards = coat.cards ?? []
        const groups = merged.value ? equalBatches(cards) : cards.map((c) => [c])
        return {
          surface,
          plan,
          coat,
          sheets: [
            { id: `${coat.id}/sections`, title: 'Sections', cards: [] },
            ...groups.map((g) => ({
              id: `${coat.id}/${g[0]?.batch ?? 0}`,
              title: ranges(g.map((c) => c.batch)),
              cards: g,
            })),
          ],
        }
      })
  }),
)
const sheets = computed(() => coats.value.flatMap((c) => c.sheets))
const equal = computed(() =>
  coats.value.some((c) => equalBatches(c.coat.cards ?? []).some((g) => g.length > 1)),
)
/** Whose card is on screen: the one chosen, else the first. */
const now = computed(
  () => sheets.value.find((s) => s.id === at.value) ?? sheets.value.find((s) => s.cards.length > 0),
)
const place = computed(() => sheets.value.findIndex((s) => s.id === now.value?.id))
const printed = computed(() => sheets.value.filter((s) => !left.value.has(s.id)).length)
/** The sheets of a coat that are drawn now. */
const drawn = (c: CoatSheets): Sheet[] =>
  c.sheets.filter((s) => (printing.value ? !left.value.has(s.id) : s.id === now.value?.id))

const named = (s: Sheet): string => (s.cards.length > 0 ? `Batch ${s.title}` : 'Sections and tape')
function step(by: number): void {
  at.value = sheets.value[place.value + by]?.id ?? at.value
}
function take(ids: string[], on: boolean): void {
  const next = new Set(left.value)
  for (const id of ids) {
    if (on) next.delete(id)
    else next.add(id)
  }
  left.value = next
}
const taken = (c: CoatSheets): boolean => c.sheets.every((s) => !left.value.has(s.id))
function print(): void {
  window.print()
}
useEventListener(window, 'beforeprint', () => (printing.value = true))
useEventListener(window, 'afterprint', () => (printing.value = false))
useEventListener(window, 'keydown', (event) => {
  if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === 'ArrowRight') step(1)
  else if (event.key === 'ArrowLeft') step(-1)
})
</script>

<template>
  <div class="page cards">
    <div class="row mb-2 no-print">
      <v-btn variant="text" :to="`/jobs/${id}`">‹ Back to the job</v-btn>
      <h1 class="grow">Mix cards{{ job ? `: ${job.file.job.name}` : '' }}</h1>
      <TickField v-if="equal" v-model="merged" label="Equal batches on one card" />
      <v-btn color="primary" variant="flat" data-test="print" :disabled="printed === 0" @click="print"
        >Print {{ printed }} {{ printed === 1 ? 'sheet' : 'sheets' }}</v-btn
      >
    </div>
    <p v-if="issues?.changes.length" role="alert" class="no-print">
      These cards differ from plan {{ issues.lines[0]?.number }}, which the crew has:
      {{ issues.changes[0]?.text }}
      Issue the plan again before they are printed.
    </p>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="job && coats.length === 0" class="quiet">
      There are no batches yet, so there is nothing to mix. Measure a surface and give it a coat first.
    </p>
    <v-skeleton-loader v-else-if="!job" type="heading, image" />
    <div class="desk">
      <nav v-if="coats.length" class="index no-print" aria-label="Cards" data-test="card-index">
        <div class="line">
          <v-btn size="small" :disabled="place <= 0" data-test="card-before" @click="step(-1)"
            >‹ Previous</v-btn
          >
          <v-btn size="small" :disabled="place >= sheets.length - 1" data-test="card-next" @click="step(1)"
            >Next ›</v-btn
          >
          <TickField
            v-if="now"
            label="Print this one"
            :model-value="!left.has(now.id)"
            @update:model-value="take([now?.id ?? ''], $event)"
          />
        </div>
        <PickField
          v-if="phone"
          open
          label="Card"
          :model-value="now?.id"
          :groups="
            coats.map((c) => ({
              title: `${c.surface.name}, coat ${c.coat.number}`,
              options: Object.fromEntries(c.sheets.map((s) => [s.id, named(s)])),
            }))
          "
          @update:model-value="at = $event"
        />
        <template v-else>
          <section v-for="c in coats" :key="c.coat.id" :data-coat="c.coat.number">
            <TickField
              :model-value="taken(c)"
              :label="`${c.surface.name}, coat ${c.coat.number}: ${c.coat.name}`"
              :heard="`Print all cards of ${c.surface.name}, coat ${c.coat.number}`"
              @update:model-value="
                take(
                  c.sheets.map((s) => s.id),
                  $event,
                )
              "
            />
            <div class="line">
              <v-btn
                v-for="s in c.sheets"
                :key="s.id"
                size="small"
                :variant="s.id === now?.id ? 'flat' : 'outlined'"
                :color="s.id === now?.id ? 'primary' : undefined"
                :aria-pressed="s.id === now?.id"
                :aria-label="named(s)"
                :class="{ left: left.has(s.id) }"
                :data-sheet="s.id"
                @click="at = s.id"
                >{{ s.title }}</v-btn
              >
            </div>
          </section>
        </template>
      </nav>
      <div class="sheets">
        <template v-for="c in coats" :key="c.coat.id">
          <template v-for="s in drawn(c)" :key="s.id">
            <SectionSheet
              v-if="s.cards.length === 0"
              :surface="c.surface"
              :plan="c.plan"
              :coat="c.coat"
              :paper="printing"
            />
            <MixCard
              v-else-if="s.cards[0]"
              :card="s.cards[0]"
              :alike="s.cards"
              :surface="c.surface.name"
              :coat="c.coat.number"
              :coats="c.plan.coats.length"
              :zone="job?.plan.zone"
              :clock="`${id}.${s.id.replace('/', '.')}`"
            >
              <IssueMark
                v-if="issues"
                :issues="issues"
                :zone="job?.plan.zone"
                :path="`/jobs/${id}/day/${s.id}`"
              />
            </MixCard>
          </template>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.index {
  display: grid;
  gap: 4px;
  align-content: start;
  margin-bottom: 12px;
}
@media screen and (min-width: 1061px) {
  .desk {
    display: grid;
    grid-template-columns: 236px minmax(0, 1fr);
    gap: 20px;
  }
}
.line .v-btn {
  min-width: 38px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
}
.left {
  opacity: 0.6;
  text-decoration: line-through;
}
@media print {
  .page {
    padding: 0;
    max-width: none;
  }
}
</style>
