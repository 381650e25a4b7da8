<script setup lang="ts">
import { computed } from 'vue'
import type { Point, Takeoff } from '../api/client'
import { boxAround, distance, fit, middle, path, windsLeft } from './figures'
import { useDrawnWidth } from './useDrawnWidth'
import { useSession } from '../session/session'

/** The picture of a top or a pool as it was measured: its plan, and a pool's long section. */
const props = defineProps<{ takeoff: Takeoff; name: string }>()
const session = useSession()
const { width } = useDrawnWidth(640)
const MARGIN = 64
const PLAN = 330
const CUT = 170
const figures = computed(() => props.takeoff.figures ?? [])
const box = computed(
  () => boxAround(figures.value.flatMap((f) => f.ring)) ?? { left: 0, right: 1, bottom: 0, top: 1 },
)
const view = computed(() => fit(box.value, width.value, PLAN, MARGIN))
const shells = computed(() => figures.value.filter((f) => f.kind === 'shell'))
const inner = computed(() => figures.value.filter((f) => f.kind !== 'shell' && f.kind !== 'edge'))
const edges = computed(() => figures.value.filter((f) => f.kind === 'edge'))
const ROOM = 46
const lengths = computed(() =>
  shells.value.flatMap((f) => {
    const outward = windsLeft(f.ring) ? 1 : -1
    return f.ring.flatMap((a, i) => {
      const b = f.ring[(i + 1) % f.ring.length] ?? a
      const length = distance(a, b)
      if (length * view.value.scale < ROOM) return []
      const m = middle(a, b)
      return [
        {
          x: view.value.x(m) + ((b.y - a.y) / length) * 20 * outward,
          y: view.value.y(m) + ((b.x - a.x) / length) * 16 * outward + 4,
          words: session.format('length', length),
        },
      ]
    })
  }),
)
const round = computed(() => shells.value.length === 1 && (shells.value[0]?.ring.length ?? 0) > 40)
const span = computed(() => ({
  along: session.format('length', box.value.right - box.value.left),
  across: session.format('length', box.value.top - box.value.bottom),
}))
function centre(ring: Point[]): Point {
  const b = boxAround(ring) ?? { left: 0, right: 0, bottom: 0, top: 0 }
  return { x: (b.left + b.right) / 2, y: (b.bottom + b.top) / 2 }
}
const LETTER = 6.4
const named = computed(() =>
  inner.value.filter((f) => {
    const b = boxAround(f.ring)
    return (
      f.name !== 'Plane' &&
      b &&
      (b.right - b.left) * view.value.scale > f.name.length * LETTER &&
      (b.top - b.bottom) * view.value.scale > 16
    )
  }),
)
/** The long section: as wide as the plan, depths drawn to the same scale while they fit. */
const section = computed(() => {
  const profile = props.takeoff.profile ?? []
  const deepest = Math.min(0, ...profile.map((p) => p.y))
  if (profile.length < 2 || deepest === 0) return null
  const v = view.value
  const tall = Math.min(v.scale * 1.4, (CUT - 50) / -deepest)
  const x = (p: Point): number => v.x({ x: p.x, y: 0 })
  const y = (p: Point): number => 18 - p.y * tall
  const ends = [profile[0], profile.at(-1)].map((p) => ({ x: p?.x ?? 0, y: 0 }))
  const line = [ends[0], ...profile, ends[1]].map((p) => (p ? `${x(p).toFixed(1)} ${y(p).toFixed(1)}` : ''))
  const marks = profile.filter((p, i) => i === 0 || profile[i - 1]?.y !== p.y || i === profile.length - 1)
  return {
    d: `M${line.join('L')}`,
    marks: marks.map((p) => ({ x: x(p), y: y(p), words: session.format('length', -p.y) })),
  }
})
</script>

<template>
  <svg
    ref="drawn"
    :viewBox="`0 0 ${width} ${section ? PLAN + CUT : PLAN}`"
    class="shape-figure"
    role="img"
    :aria-label="`Picture of ${name} with its measures`"
    data-test="shape"
  >
    <path v-for="(f, i) in shells" :key="`s${i}`" :d="path([f.ring], view)" class="shell" />
    <path v-for="(f, i) in inner" :key="`i${i}`" :d="path([f.ring], view)" :class="f.kind">
      <title>{{ f.name }}</title>
    </path>
    <path
      v-for="(f, i) in edges"
      :key="`e${i}`"
      :d="`M${view.x(f.ring[0]!)} ${view.y(f.ring[0]!)}L${view.x(f.ring[1]!)} ${view.y(f.ring[1]!)}`"
      class="edge"
      :class="f.name"
    />
    <text
      v-for="(f, i) in named"
      :key="`n${i}`"
      :x="view.x(centre(f.ring))"
      :y="view.y(centre(f.ring)) + 4"
      class="name"
    >
      {{ f.name }}
    </text>
    <template v-if="!round">
      <text v-for="(l, i) in lengths" :key="`l${i}`" :x="l.x" :y="l.y" class="length">{{ l.words }}</text>
    </template>
    <template v-else>
      <text :x="width / 2" :y="PLAN - 14" class="length">{{ span.along }}</text>
      <text :x="view.x({ x: box.right, y: 0 }) + 30" :y="PLAN / 2" class="length">{{ span.across }}</text>
    </template>
    <g v-if="section" :transform="`translate(0 ${PLAN})`">
      <text x="12" y="14" class="name start">Along the middle</text>
      <path :d="section.d" class="cut" />
      <text v-for="(m, i) in section.marks" :key="`m${i}`" :x="m.x" :y="m.y + 18" class="length">
        {{ m.words }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.shape-figure {
  width: 100%;
  display: block;
  border: 1px solid var(--line);
  background: var(--paper);
}
.shell {
  fill: color-mix(in srgb, var(--cure) 12%, var(--paper));
  stroke: var(--ink);
  stroke-width: 2.4;
  stroke-linejoin: round;
}
.floor {
  fill: color-mix(in srgb, var(--cure) 26%, var(--paper));
  stroke: var(--ink);
  stroke-width: 1;
}
.slope {
  fill: color-mix(in srgb, var(--cure) 12%, var(--paper));
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 5 3;
}
.part {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.edge {
  stroke: var(--cure);
  stroke-width: 6;
}
.edge.splashback {
  stroke: #7a4d9b;
  stroke-dasharray: 4 3;
}
.edge.waterfall {
  stroke: #b8862d;
  stroke-width: 9;
}
.cut {
  fill: color-mix(in srgb, var(--cure) 18%, var(--paper));
  stroke: var(--ink);
  stroke-width: 2.4;
  stroke-linejoin: round;
}
text {
  fill: var(--ink);
  font-size: 13px;
  text-anchor: middle;
}
.length {
  font-weight: 640;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.name {
  font-size: 13px;
  fill: var(--quiet);
}
.start {
  text-anchor: start;
}
</style>
