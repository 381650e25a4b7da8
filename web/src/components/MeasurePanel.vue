<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Point } from '../api/client'
import { useDesk } from '../composables/useEditor'
import { useDraft, type DraftKind } from '../composables/useDraft'
import { newId } from '../lib/blank'
import { distance, middle, pushWall } from '../lib/figures'
import { useSession } from '../stores/session'
import DrawingImport from './DrawingImport.vue'
import FigureButton from './FigureButton.vue'
import FindingList from './FindingList.vue'
import FloorParts from './FloorParts.vue'
import GivenArea from './GivenArea.vue'
import OutlineEditor from './OutlineEditor.vue'
import QuantityField from './QuantityField.vue'
import WallEntry from './WallEntry.vue'

const INCH = 0.0254
defineProps<{ jobId: string }>()
const desk = useDesk()
const session = useSession()
const draft = useDraft()
const exiting = ref(false)
const importing = ref(false)
const grids = computed(() =>
  session.units === 'us' ? [INCH, 3 * INCH, 6 * INCH, 12 * INCH, 24 * INCH] : [0.01, 0.05, 0.1, 0.25, 0.5, 1],
)
const grid = ref(0.1)
watch(
  () => session.units,
  (units) => (grid.value = units === 'us' ? 6 * INCH : 0.1),
  { immediate: true },
)
watch(
  () => desk.surface.value.id,
  () => {
    draft.cancel()
    exiting.value = false
  },
)

const takeoff = computed(() => desk.surfacePlan.value?.takeoff)
const outline = computed(() => desk.surface.value.floor.outline)
const measured = computed(() => outline.value.length > 0)

function begin(kind: DraftKind): void {
  exiting.value = false
  draft.begin(kind)
}

function close(): void {
  if (!draft.closable.value) return
  const kind = draft.kind.value
  const points = draft.close()
  desk.editSurface(`${kind} drawn`, (s) => {
    if (kind === 'outline') {
      s.floor.outline = points
      s.floor.given = undefined
    } else s.floor.holes.push({ id: newId(), name: `Column ${s.floor.holes.length + 1}`, outline: points })
  })
}

function setExit(at: Point | undefined): void {
  exiting.value = false
  desk.editSurface('exit', (s) => (s.layout.exit = at))
}

/** Moves every point of the surface alike. */
function turn(label: string, by: (p: Point) => Point): void {
  desk.editSurface(label, (s) => {
    s.floor.outline = s.floor.outline.map(by)
    for (const h of s.floor.holes) h.outline = h.outline.map(by)
    if (s.layout.exit) s.layout.exit = by(s.layout.exit)
    s.layout.direction = undefined
  })
}

function exitOnWall(event: Event): void {
  const side = Number((event.target as HTMLSelectElement).value)
  const a = outline.value[side]
  const b = outline.value[(side + 1) % outline.value.length]
  setExit(a && b ? middle(a, b) : undefined)
}

function setLength(side: number, length: number): void {
  desk.editSurface(`side ${side}`, (s) => (s.floor.outline = pushWall(s.floor.outline, side, length)))
}

const sides = computed(() =>
  outline.value.map((p, i) => distance(p, outline.value[(i + 1) % outline.value.length] ?? p)),
)

useEventListener(window, 'keydown', (event) => {
  const typing = (event.target as HTMLElement).closest('input, select, textarea, [role="dialog"]')
  if (typing || event.ctrlKey || event.metaKey) return
  if (event.key.toLowerCase() === 'd' && session.mayEdit && !draft.drawing.value)
    begin(measured.value ? 'hole' : 'outline')
  else if (event.key === 'Enter' && draft.drawing.value && !(event.target as HTMLElement).closest('button'))
    close()
  else if (event.key === 'Escape') {
    draft.cancel()
    exiting.value = false
  } else if (event.key === 'Backspace' && draft.drawing.value) draft.back()
})
</script>

<template>
  <section id="measure" class="sheet panel" aria-labelledby="measure-title">
    <div class="row mb-3">
      <h2 id="measure-title" class="grow">1 · Measure</h2>
      <template v-if="session.mayEdit">
        <v-btn data-test="draw" :disabled="draft.drawing.value" @click="begin('outline')">
          {{ measured ? 'Outline anew' : 'Outline this floor' }}
        </v-btn>
        <v-btn :disabled="draft.drawing.value" data-test="import" @click="importing = true"
          >Import a drawing</v-btn
        >
        <v-btn data-test="draw-hole" :disabled="!measured || draft.drawing.value" @click="begin('hole')"
          >Add a column</v-btn
        >
        <v-btn :disabled="!measured || draft.drawing.value" :active="exiting" @click="exiting = !exiting"
          >Mark the exit</v-btn
        >
        <label class="small">
          Grid
          <select v-model="grid" class="pick" aria-label="Grid of the drawing">
            <option v-for="g in grids" :key="g" :value="g">{{ session.format('length', g) }}</option>
          </select>
        </label>
      </template>
    </div>
    <DrawingImport v-model="importing" />
    <FindingList :findings="desk.findings('measure')" />
    <div class="halves">
      <OutlineEditor :draft="draft" :grid="grid" :exiting="exiting" @exit="setExit" @close="close" />
      <div class="facts">
        <WallEntry v-if="draft.drawing.value" :draft="draft" @close="close" />
        <template v-else>
          <dl v-if="takeoff" class="totals">
            <div>
              <dt>Area to coat</dt>
              <dd data-test="area">
                <FigureButton :workings="[takeoff.working, ...(takeoff.partWorkings ?? [])]">{{
                  session.format('area', takeoff.area)
                }}</FigureButton>
              </dd>
            </div>
            <div v-if="takeoff.perimeter > 0">
              <dt>Around the walls</dt>
              <dd data-test="perimeter">{{ session.format('length', takeoff.perimeter) }}</dd>
            </div>
            <div v-if="takeoff.parts > 0">
              <dt>Of it, edges and steps</dt>
              <dd>{{ session.format('area', takeoff.parts) }}</dd>
            </div>
            <div v-if="takeoff.holeEdge > 0">
              <dt>Around columns</dt>
              <dd>{{ session.format('length', takeoff.holeEdge) }}</dd>
            </div>
          </dl>
          <p v-else-if="measured" class="quiet">
            No area can be trusted until the outline is mended. The drawing stays as it is.
          </p>
          <p v-else class="quiet">
            Outline the floor by clicking its corners on the grid, or by typing the walls one after another as
            you walk them.
          </p>
          <details v-if="measured" open>
            <summary>Walls</summary>
            <p v-if="session.mayEdit" class="quiet small">A new length pushes the wall behind it.</p>
            <div class="sides">
              <QuantityField
                v-for="(length, i) in sides"
                :key="i"
                kind="length"
                :label="`Wall ${i + 1}, from corner ${i + 1}`"
                :model-value="length"
                :disabled="!session.mayEdit"
                positive
                @update:model-value="setLength(i, $event)"
              />
            </div>
            <div class="row mt-2 mb-2">
              <template v-if="session.mayEdit">
                <v-btn size="small" @click="turn('mirror', (p) => ({ x: -p.x, y: p.y }))">Mirror</v-btn>
                <v-btn size="small" @click="turn('turn', (p) => ({ x: -p.y, y: p.x }))">Turn by 90°</v-btn>
              </template>
              <v-btn size="small" :to="`/jobs/${jobId}/sheets`" data-test="to-sheets">Measuring sheet</v-btn>
            </div>
            <label v-if="session.mayEdit" class="small exit-choice">
              Exit in the middle of
              <select class="pick" data-test="exit-wall" aria-label="Wall with the exit" @change="exitOnWall">
                <option value="-1">
                  {{ desk.surface.value.layout.exit ? 'where it is marked' : 'no wall yet' }}
                </option>
                <option v-for="(length, i) in sides" :key="i" :value="i">
                  wall {{ i + 1 }}, {{ session.format('length', length) }}
                </option>
              </select>
            </label>
          </details>
          <GivenArea v-if="!measured" />
          <FloorParts v-if="takeoff" />
          <details v-if="desk.surface.value.floor.holes.length > 0" open>
            <summary>Columns and pits</summary>
            <ul class="holes">
              <li v-for="(h, i) in desk.surface.value.floor.holes" :key="h.id" class="row">
                <v-text-field
                  :model-value="h.name"
                  :label="`Name of hole ${i + 1}`"
                  maxlength="120"
                  :readonly="!session.mayEdit"
                  @change="
                    (e: Event) =>
                      desk.editSurface('hole name', (s) => {
                        const hole = s.floor.holes[i]
                        if (hole) hole.name = (e.target as HTMLInputElement).value
                      })
                  "
                />
                <span v-if="takeoff" class="figure">{{
                  session.format('area', -(takeoff.pieces[i + 1]?.area ?? 0))
                }}</span>
                <v-btn
                  v-if="session.mayEdit"
                  size="small"
                  variant="text"
                  :aria-label="`Remove ${h.name}`"
                  @click="desk.editSurface('remove hole', (s) => s.floor.holes.splice(i, 1))"
                >
                  Remove
                </v-btn>
              </li>
            </ul>
          </details>
        </template>
      </div>
    </div>
  </section>
</template>

<style scoped>
.facts {
  display: grid;
  gap: 14px;
  align-content: start;
}
.totals {
  display: grid;
  gap: 8px;
}
.totals div {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 1px solid var(--faint);
  padding-bottom: 6px;
}
.totals dd {
  font-size: 1.35rem;
  font-weight: 680;
}
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  margin: 8px 0;
  align-items: start;
}
summary {
  font-weight: 640;
  cursor: pointer;
}
.holes {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
  margin-top: 10px;
}
.exit-choice {
  display: block;
}
</style>
