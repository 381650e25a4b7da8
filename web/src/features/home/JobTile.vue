<script setup lang="ts">
import { computed } from 'vue'
import type { JobLine } from '../../api/client'
import { dayTime, spokenDay } from '../../fields/clock'
import { money } from '../../session/units'
import { useSession } from '../../session/session'
import TickField from '../../fields/TickField.vue'

/** One job of the list: what it is, how it is built up, and what it still needs. */
const props = defineProps<{ line: JobLine }>()
defineEmits<{ archive: [line: JobLine, away: boolean] }>()
const picked = defineModel<string[]>('picked', { required: true })
const session = useSession()
const s = computed(() => props.line.summary)
const MOST_BANDS = 4
const bands = computed(() => s.value.systems.slice(0, MOST_BANDS))
const when = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric' })
const figures = computed(() =>
  [
    s.value.area > 0 ? session.format('area', s.value.area) : '',
    s.value.kits > 0 ? `${s.value.kits} ${s.value.kits === 1 ? 'kit' : 'kits'}` : '',
    s.value.cost !== undefined && s.value.kits > 0 ? money(s.value.cost, s.value.currency) : '',
  ].filter(Boolean),
)
const flag = computed(() => {
  if (s.value.standing === 'done') return ''
  if (s.value.refused > 0) return `${s.value.refused} cannot be planned`
  return s.value.warnings > 0 ? `${s.value.warnings} ${s.value.warnings === 1 ? 'warning' : 'warnings'}` : ''
})
</script>

<template>
  <li class="sheet tile" :class="{ refused: s.refused > 0 }">
    <router-link :to="`/jobs/${line.id}`" class="job">
      <svg class="bands" viewBox="0 0 34 64" aria-hidden="true">
        <rect x="0" y="0" width="34" height="64" class="slab" />
        <template v-for="(b, i) in bands" :key="b.surface">
          <rect
            v-for="(c, k) in b.colors"
            :key="k"
            :x="i * (34 / bands.length)"
            :y="64 - ((k + 1) * 64) / b.colors.length"
            :width="34 / bands.length"
            :height="64 / b.colors.length - 1"
            :fill="c"
          />
        </template>
      </svg>
      <span class="words">
        <span class="title">{{ line.name }}</span>
        <span class="quiet">{{
          [line.client, line.site].filter(Boolean).join(' · ') || 'No client named'
        }}</span>
        <span class="figures">
          <span v-for="f in figures" :key="f">{{ f }}</span>
          <span v-if="figures.length === 0" class="quiet">not measured</span>
          <span v-if="s.ready" v-tooltip="dayTime(s.ready, s.zone)"
            >in use {{ spokenDay(s.ready, s.zone) }}</span
          >
        </span>
        <span v-if="s.needs || flag" class="needs"
          ><strong v-if="flag">{{ flag }}.</strong> {{ s.needs }}</span
        >
      </span>
    </router-link>
    <div class="foot">
      <TickField
        label="choose"
        :heard="`Choose ${line.name} for a purchase`"
        :model-value="picked.includes(line.id)"
        @update:model-value="picked = $event ? [...picked, line.id] : picked.filter((id) => id !== line.id)"
      />
      <span class="quiet grow">{{ line.changedBy }}, {{ when.format(new Date(line.changedAt)) }}</span>
      <v-btn
        v-if="session.mayEdit"
        size="small"
        variant="text"
        @click="$emit('archive', line, !line.archived)"
      >
        {{ line.archived ? 'Restore' : 'Archive' }}
      </v-btn>
    </div>
  </li>
</template>

<style scoped>
.tile {
  display: grid;
  grid-template-rows: 1fr auto;
}
.tile.refused {
  border-left: 6px double var(--stop);
}
.job {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr);
  gap: 14px;
  padding: 14px 16px 8px;
  color: inherit;
  text-decoration: none;
}
.job:hover .title {
  text-decoration: underline;
}
.bands {
  width: 34px;
  height: 64px;
  border: 1px solid var(--ink);
}
.slab {
  fill: var(--faint);
}
.words {
  display: grid;
  gap: 2px;
  align-content: start;
  min-width: 0;
}
.title {
  font-weight: 700;
  font-size: 1.06rem;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  font-weight: 620;
}
.needs {
  font-size: 0.9rem;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
}
.needs strong {
  color: var(--warn);
}
.refused .needs strong {
  color: var(--stop);
}
.foot {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 2px 8px 4px 16px;
  border-top: 1px solid var(--faint);
  font-size: 13px;
}
</style>
