<script setup lang="ts">
import { computed } from 'vue'
import type { CoatPlan } from '../../api/client'
import FoldPanel from '../../fields/FoldPanel.vue'
import { useSession } from '../../session/session'

const props = defineProps<{ coat: CoatPlan }>()
const session = useSession()
const division = computed(() => props.coat.division)
function atMost(limit: { text: string; volume: number }): string {
  return `${limit.text} At most ${session.format('volume', limit.volume)} a batch.`
}
</script>

<template>
  <article v-if="division" class="coat" :data-test="`batches-${coat.number}`">
    <div class="row">
      <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="coat.color" /></svg>
      <h3 class="grow">Coat {{ coat.number }} · {{ coat.name }}</h3>
      <span class="figure">
        {{ division.batches.length }} {{ division.batches.length === 1 ? 'batch' : 'batches' }},
        {{ session.format('volume', division.mixed) }} mixed
      </span>
    </div>
    <div class="both">
      <ol class="train">
        <li v-for="b in division.batches" :key="b.number" :class="{ odd: b.number % 2 === 1 }">
          <svg class="fill" preserveAspectRatio="none" viewBox="0 0 10 10" aria-hidden="true">
            <rect width="10" height="10" :fill="coat.color" />
          </svg>
          <span class="words">
            <strong>{{ b.number }}</strong>
            <span>{{ session.format('volume', b.volume) }}</span>
            <span class="small">{{ session.format('mass', b.mass) }}</span>
            <span v-if="coat.sections?.[b.number - 1]" class="small"
              >{{
                session.format(
                  'area',
                  (coat.sections[b.number - 1]?.area ?? 0) + (coat.sections[b.number - 1]?.parts ?? 0),
                )
              }}
            </span>
            <span class="quiet small">{{ b.share }}</span>
          </span>
        </li>
      </ol>
      <div class="why">
        <p class="small">{{ division.reason }}</p>
        <p v-if="division.limits[0]" class="small quiet">
          <strong>Limited by: </strong>{{ atMost(division.limits[0]) }}
          <span v-for="way in division.relax ?? []" :key="way" class="relax">{{ way }}</span>
        </p>
        <FoldPanel v-if="division.limits.length > 1" title="Other limits">
          <ul class="limits small quiet">
            <li v-for="l in division.limits.slice(1)" :key="l.kind">{{ atMost(l) }}</li>
          </ul>
        </FoldPanel>
        <p v-if="division.excess > 0" class="small quiet">
          {{ session.format('volume', division.excess) }} more is mixed than needed: spread out, the film is
          {{ session.format('film', coat.mixed ?? 0) }} instead of
          {{ session.format('film', coat.build?.wet ?? 0) }}.
        </p>
      </div>
    </div>
  </article>
</template>

<style scoped>
.relax::before {
  content: '→ ';
}
.relax {
  display: block;
}
.both {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  margin-top: 8px;
}
.both > .train {
  flex: 3 1 560px;
}
.why {
  flex: 2 1 340px;
}
.coat {
  padding: 12px 0;
  border-bottom: 1px solid var(--faint);
}
.train {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
  align-content: start;
  margin: 0;
}
.train li {
  flex: 1 1 76px;
  max-width: 200px;
  border: 1px solid var(--ink);
}
.fill {
  display: block;
  width: 100%;
  height: 10px;
  border-bottom: 1px solid var(--ink);
}
.words {
  display: grid;
  padding: 4px 8px;
}
.limits {
  padding-left: 18px;
  margin-top: 4px;
}
</style>
