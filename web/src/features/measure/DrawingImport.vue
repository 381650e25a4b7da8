<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { readDrawing, type Drawing, type Point } from '../../api/client'
import { useSending } from '../../api/useSending'
import SendingBar from '../../shell/SendingBar.vue'
import { boxAround, distance, fit, path, tidy } from '../../drawing/figures'
import { useSession } from '../../session/session'
import TickField from '../../fields/TickField.vue'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import QuantityField from '../../fields/QuantityField.vue'

/** What the outline becomes, and what the outlines in it are called. */
const props = defineProps<{ what: string; inner: string }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ take: [outline: Point[], inner: { name: string; outline: Point[] }[]] }>()
const session = useSession()
const drawing = ref<Drawing | null>(null)
const {
  name,
  busy,
  sent,
  trouble,
  stop,
  take: read,
} = useSending(readDrawing, {
  refused: 'This drawing cannot be read.',
  away: 'The server does not answer. Choose the file again when it is back.',
  stopped: 'Stopped. Nothing was imported.',
})
const layers = ref<string[]>([])
const outline = ref(0)
const holes = ref<number[]>([])
const scale = ref(0)
const side = ref(0)

const FOOT = 0.3048
const scales: [string, string][] = [
  ['0.001', 'millimetres'],
  ['0.01', 'centimetres'],
  ['1', 'metres'],
  [String(FOOT / 12), 'inches'],
  [String(FOOT), 'feet'],
]
/** The units with what the drawing itself says, or what a side of a known length gives. */
const units = computed(() => {
  const own = String(scale.value)
  if (scales.some(([metres]) => metres === own)) return scales
  const words = scale.value > 0 ? session.format('length', scale.value) : 'not known yet'
  return [[own, words], ...scales] satisfies [string, string][]
})
const MOST = 12 << 20

async function pick(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  drawing.value = null
  name.value = file.name
  if (file.size > MOST) {
    trouble.value = 'The file is larger than 12 MB. Export only the layer with the outlines.'
    return
  }
  const { ok, data } = await read(file)
  drawing.value = data ?? null
  if (!ok) return
  scale.value = data?.scale ?? 0
  outline.value = 0
  side.value = 0
  layers.value = [...new Set(data?.shapes.map((shape) => shape.layer))]
}
const allLayers = computed(() => [...new Set((drawing.value?.shapes ?? []).map((shape) => shape.layer))])
/** Shapes of the layers that are looked at; the outline is the largest of them. */
const offered = computed(() =>
  (drawing.value?.shapes ?? [])
    .map((shape, index) => ({ shape, index }))
    .filter((o) => layers.value.includes(o.shape.layer)),
)
watch(layers, () => {
  if (!offered.value.some((o) => o.index === outline.value)) outline.value = offered.value[0]?.index ?? 0
  holes.value = others.value.map((o) => o.index)
})

const chosen = computed<Point[]>(() => drawing.value?.shapes[outline.value]?.outline ?? [])
const WIDTH = 420
const HEIGHT = 300
const view = computed(() =>
  fit(boxAround(chosen.value) ?? { left: 0, right: 1, bottom: 0, top: 1 }, WIDTH, HEIGHT, 16),
)
const others = computed(() =>
  offered.value.filter((o) => o.index !== outline.value && inside(o.shape.outline)),
)
/** By its box only: the plan refuses a hole that is not truly inside. */
function inside(ring: Point[]): boolean {
  const a = boxAround(chosen.value)
  const b = boxAround(ring)
  return !!a && !!b && b.left > a.left && b.right < a.right && b.bottom > a.bottom && b.top < a.top
}
watch(outline, () => (holes.value = others.value.map((o) => o.index)))
watch(drawing, () => (holes.value = others.value.map((o) => o.index)))

const sideLength = computed(() => {
  const a = chosen.value[side.value]
  const b = chosen.value[(side.value + 1) % chosen.value.length]
  return a && b ? distance(a, b) : 0
})
function calibrate(metres: number): void {
  if (sideLength.value > 0) scale.value = metres / sideLength.value
}
const SIDES_SHOWN = 60
const numbered = computed(() =>
  Object.fromEntries(chosen.value.slice(0, SIDES_SHOWN).map((_, i) => [i, String(i + 1)])),
)
/** A shape by its layer and size. */
function named({ shape }: { shape: Drawing['shapes'][number] }): string {
  const size = scale.value > 0 ? `, ${session.format('area', shape.area * scale.value * scale.value)}` : ''
  return (shape.layer || shape.kind) + size
}

function take(): void {
  const d = drawing.value
  const box = boxAround(chosen.value)
  if (!d || !box || scale.value <= 0) return
  const placed = (ring: Point[]): Point[] =>
    ring.map((p) => ({ x: tidy((p.x - box.left) * scale.value), y: tidy((p.y - box.bottom) * scale.value) }))
  emit(
    'take',
    placed(chosen.value),
    holes.value.map((i) => ({ name: d.shapes[i]?.layer ?? '', outline: placed(d.shapes[i]?.outline ?? []) })),
  )
  open.value = false
  drawing.value = null
}
</script>

<template>
  <v-dialog v-model="open" max-width="860" persistent aria-label="Import a drawing">
    <div class="sheet import" data-test="import-drawing">
      <div class="row">
        <h2 class="grow">Import a drawing</h2>
        <v-btn variant="text" @click="open = false">Cancel</v-btn>
      </div>
      <p class="quiet">DXF (text), GeoJSON or SVG with closed outlines, up to 12 MB.</p>
      <input type="file" accept=".dxf,.json,.geojson,.svg" aria-label="Drawing to import" @change="pick" />
      <SendingBar v-if="busy" :name="name" :sent="sent" then="Reading" @stop="stop" />
      <p v-if="trouble" class="trouble" role="alert">{{ name }}: {{ trouble }}</p>
      <template v-if="drawing">
        <p>
          {{ drawing.format }} with {{ drawing.shapes.length }} closed
          {{ drawing.shapes.length === 1 ? 'outline' : 'outlines' }};
          {{
            drawing.unit
              ? `its unit: ${drawing.unit}`
              : 'it states no unit, so say what one unit is, or give one true length'
          }}.
        </p>
        <div class="halves">
          <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" aria-label="The outline chosen">
            <path :d="path([chosen], view)" class="outline" />
            <path
              v-for="i in holes"
              :key="i"
              :d="path([drawing.shapes[i]?.outline ?? []], view)"
              class="hole"
            />
            <path
              v-if="chosen[side]"
              :d="`M${view.x(chosen[side]!)} ${view.y(chosen[side]!)}L${view.x(chosen[(side + 1) % chosen.length]!)} ${view.y(chosen[(side + 1) % chosen.length]!)}`"
              class="side"
            />
          </svg>
          <div class="choices">
            <fieldset v-if="allLayers.length > 1" data-test="layers">
              <legend>Layers</legend>
              <TickField
                v-for="l in allLayers"
                :key="l"
                :label="l || 'without a name'"
                :model-value="layers.includes(l)"
                @update:model-value="layers = $event ? [...layers, l] : layers.filter((n) => n !== l)"
              />
            </fieldset>
            <PickField
              :label="`Outline of the ${props.what}`"
              :model-value="String(outline)"
              :options="Object.fromEntries(offered.map((o) => [o.index, named(o)]))"
              @update:model-value="outline = Number($event)"
            />
            <fieldset v-if="others.length > 0">
              <legend>{{ inner }} in it</legend>
              <TickField
                v-for="o in others"
                :key="o.index"
                :label="named(o)"
                :model-value="holes.includes(o.index)"
                @update:model-value="
                  holes = $event ? [...holes, o.index] : holes.filter((n) => n !== o.index)
                "
              />
            </fieldset>
            <PickField
              label="What one unit of the drawing is"
              :model-value="String(scale)"
              :options="units"
              @update:model-value="scale = Number($event)"
            />
            <PickField
              label="Side with a known length"
              :model-value="String(side)"
              :options="numbered"
              @update:model-value="side = Number($event)"
            />
            <QuantityField
              kind="length"
              label="True length of that side"
              :model-value="scale > 0 ? sideLength * scale : undefined"
              positive
              @update:model-value="calibrate"
            />
          </div>
        </div>
        <FoldPanel
          v-if="drawing.leftOut.length > 0"
          open
          data-test="left-out"
          title="Left out of the drawing"
        >
          <ul>
            <li v-for="l in drawing.leftOut" :key="l.what + l.why">
              {{ l.count }} × {{ l.what }}: {{ l.why }}
            </li>
          </ul>
        </FoldPanel>
        <div>
          <v-btn color="primary" variant="flat" :disabled="scale <= 0" @click="take">Use this outline</v-btn>
        </div>
      </template>
    </div>
  </v-dialog>
</template>

<style scoped>
.import {
  padding: 22px 24px;
  display: grid;
  gap: 12px;
  max-height: 92vh;
  overflow: auto;
}
.halves {
  display: grid;
  grid-template-columns: 1.3fr 1fr;
  gap: 18px;
}
svg {
  width: 100%;
  border: 1px solid var(--line);
}
.outline {
  fill: color-mix(in srgb, var(--cure) 15%, var(--paper));
  stroke: var(--ink);
  stroke-width: 2;
}
.hole {
  fill: var(--paper);
  stroke: var(--ink);
}
.side {
  stroke: #e2a13b;
  stroke-width: 5;
}
.choices {
  display: grid;
  gap: 10px;
  align-content: start;
}
fieldset {
  border: 1px solid var(--line);
  padding: 6px 10px;
  max-height: 120px;
  overflow: auto;
}
fieldset label {
  display: block;
}
.trouble {
  color: var(--stop);
  font-weight: 600;
}
ul {
  padding-left: 20px;
}
@media (max-width: 700px) {
  .halves {
    grid-template-columns: 1fr;
  }
}
</style>
