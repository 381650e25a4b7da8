<script setup lang="ts">
import { computed } from 'vue'
import type { Line, Step } from '../../api/client'
import { money, type Kind } from '../../session/units'
import { dayTime } from '../../fields/clock'
import { useSession } from '../../session/session'
import { stepPath } from './steps'

/** The whole job in one row of figures; what the last edit moved says by how much. */
const props = defineProps<{
  line: Line
  before: Line | null
  currency: string
  zone?: string
  jobId: string
  /** Nobody walks on it: all of it is tops. */
  tops: boolean
}>()
const session = useSession()
const HOUR = 3600
const MILLIS = 1000

interface Part {
  text: string
  /** How far it moved, with a sign; empty where it did not. */
  moved: string
}
function signed(by: number, text: (v: number) => string): string {
  return `${by > 0 ? '+' : '−'}${text(Math.abs(by))}`
}
/** A figure, and by how much it moved: with fewer words, as they stand beside it. */
function part(now: number, was: number | undefined, text: (v: number) => string, by = text): Part {
  const shown = text(now)
  // What rounds to the same figure did not move for whoever reads it.
  const moved = was === undefined || text(was) === shown ? '' : signed(now - was, by)
  return { text: shown, moved }
}
const price = (v: number): string => money(v, props.currency)
const quantity = (kind: Kind) => (v: number) => session.format(kind, v)
const counted = (one: string, many: string) => (v: number) =>
  `${session.format('count', v)} ${v === 1 ? one : many}`

const figures = computed(() => {
  const now = props.line
  const was = props.before
  const all: { id: string; name: string; step: Step; parts: Part[] }[] = [
    { id: 'area', name: 'Area', step: 'measure', parts: [part(now.area, was?.area, quantity('area'))] },
    {
      id: 'film',
      name: 'Build-up',
      step: 'build-up',
      parts: [
        part(now.coats, was?.coats, counted('coat', 'coats'), quantity('count')),
        part(now.film, was?.film, quantity('film')),
      ],
    },
    {
      id: 'mix',
      name: 'To mix',
      step: 'build-up',
      parts: [part(now.volume, was?.volume, quantity('volume')), part(now.mass, was?.mass, quantity('mass'))],
    },
    {
      id: 'kits',
      name: 'To buy',
      step: 'kits',
      parts: [
        part(now.kits, was?.kits, counted('kit', 'kits'), quantity('count')),
        ...(now.cost === undefined ? [] : [part(now.cost, was?.cost, price)]),
        ...(now.others > 0
          ? [part(now.others, was?.others, (v) => `other materials ${price(v)}`, price)]
          : []),
      ],
    },
    {
      id: 'batches',
      name: 'Batches',
      step: 'batches',
      parts: [part(now.batches, was?.batches, quantity('count'))],
    },
    {
      id: 'effort',
      name: 'Work',
      step: 'batches',
      parts: [
        part(
          now.effort / HOUR,
          was ? was.effort / HOUR : undefined,
          (v) => `${session.format('number', v)} h`,
        ),
        part(now.people, was?.people, counted('person', 'people'), quantity('count')),
        ...(now.labour === undefined ? [] : [part(now.labour, was?.labour, price)]),
      ],
    },
    {
      id: 'ready',
      name: `${props.tops ? 'Light use' : 'Light foot traffic'} from${now.basis ? `, ${now.basis}` : ''}`,
      step: 'batches',
      parts: [ready(now, was)],
    },
  ]
  return all
})

function ready(now: Line, was: Line | null): Part {
  if (!now.ready) return { text: 'no start yet', moved: '' }
  const at = new Date(now.ready).getTime()
  const then = was?.ready ? new Date(was.ready).getTime() : at
  const by = (at - then) / MILLIS
  return {
    text: dayTime(now.ready, props.zone),
    moved: Math.abs(by) < 30 ? '' : signed(by, quantity('span')),
  }
}
</script>

<template>
  <nav class="line scroll" aria-label="The job in one line" data-test="line">
    <router-link
      v-for="f in figures"
      :key="f.id"
      :to="stepPath(jobId, f.step)"
      class="figure-of"
      :data-test="`line-${f.id}`"
    >
      <span class="what">{{ f.name }}</span>
      <span class="values">
        <span v-for="(p, i) in f.parts" :key="i" class="value">
          {{ p.text }}
          <span v-if="p.moved" class="moved" data-test="moved">{{ p.moved }}</span>
        </span>
      </span>
    </router-link>
  </nav>
</template>

<style scoped>
.line {
  display: flex;
  background: var(--ground);
  border-top: 1px solid var(--line);
  overflow: hidden;
}
.figure-of {
  flex: 1 1 auto;
  padding: 5px 14px 6px;
  color: inherit;
  text-decoration: none;
  border-right: 1px dashed var(--line);
  min-width: min-content;
}
.figure-of:last-child {
  border-right: 0;
}
.figure-of:hover {
  background: var(--paper);
}
.what {
  display: block;
  font-size: 13px;
  line-height: 1.2;
  color: var(--quiet);
}
.values {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.value {
  font-weight: 680;
  white-space: nowrap;
}
.moved {
  font-size: 13px;
  font-weight: 640;
  padding: 0 5px;
  border-radius: 2px;
  background: var(--ink);
  color: var(--paper);
}
@media (max-width: 700px) {
  .line {
    overflow-x: auto;
  }
  .figure-of {
    flex: 0 0 auto;
    padding: 3px 10px;
  }
  .values {
    flex-wrap: nowrap;
  }
}
@media (min-width: 700.1px) and (max-width: 900px) {
  .line {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(112px, 1fr));
  }
  .figure-of {
    padding: 3px 8px;
    border-bottom: 1px dashed var(--line);
  }
  .values {
    gap: 0 8px;
  }
}
</style>
