<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Point, TopEdge, TopPiece } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { copyOf, newId } from '../job/blank'
import { boxAround, distance, mapPoints, rectangle } from '../../drawing/figures'
import { useSession } from '../../session/session'
import TickField from '../../fields/TickField.vue'
import PickField from '../../fields/PickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'
import EntryHead from '../shelf/EntryHead.vue'
import NameField from '../../fields/NameField.vue'
import QuantityField from '../../fields/QuantityField.vue'
import RectFields from './RectFields.vue'

/** One piece of a top: its measures, edges and cut-outs. */
const props = defineProps<{ piece: TopPiece; open: boolean }>()
const emit = defineEmits<{ edge: [piece: string, side: number, kind: TopEdge['kind'] | 'wall'] }>()
type Cutout = NonNullable<TopPiece['cutouts']>[number]
const desk = useDesk()
const session = useSession()
const kinds: Record<TopEdge['kind'] | 'wall', string> = {
  wall: 'wall or joint',
  exposed: 'exposed edge',
  splashback: 'splashback',
  waterfall: 'waterfall end',
}
const corner = computed<Point>(() => {
  const box = boxAround(props.piece.outline)
  return { x: box?.left ?? 0, y: box?.bottom ?? 0 }
})
const sides = computed(() =>
  props.piece.outline.map((a, i) => ({
    number: i + 1,
    length: distance(a, props.piece.outline[(i + 1) % props.piece.outline.length] ?? a),
    edge: props.piece.edges?.find((e) => e.side === i + 1),
  })),
)

function change(label: string, by: (piece: TopPiece) => void): void {
  desk.editSurface(`${props.piece.id} ${label}`, (s) => {
    const piece = s.top?.pieces.find((p) => p.id === props.piece.id)
    if (piece) by(piece)
  })
}
function changeCutout(id: string, label: string, by: (cut: Cutout) => void): void {
  change(`${id} ${label}`, (p) => {
    const cut = p.cutouts?.find((one) => one.id === id)
    if (cut) by(cut)
  })
}
/** A piece that moves takes its cut-outs along. */
function reshape(points: Point[], label: string): void {
  const from = corner.value
  const to = boxAround(points)
  const dx = (to?.left ?? 0) - from.x
  const dy = (to?.bottom ?? 0) - from.y
  change(label, (p) => {
    p.outline = points
    for (const c of p.cutouts ?? []) c.outline = c.outline.map((q) => ({ x: q.x + dx, y: q.y + dy }))
  })
}
const SINK = { length: 0.5, depth: 0.4 }
/** The cut-out that was added last: its fields are open. */
const added = ref('')
function addCutout(): void {
  const box = boxAround(props.piece.outline)
  if (!box) return
  const width = Math.min(SINK.length, (box.right - box.left) / 2)
  const height = Math.min(SINK.depth, (box.top - box.bottom) * 0.66)
  const x = (box.left + box.right - width) / 2
  const y = (box.bottom + box.top - height) / 2
  added.value = newId()
  change('add cut-out', (p) => {
    const all = p.cutouts ?? []
    p.cutouts = [
      ...all,
      {
        id: added.value,
        name: all.length === 0 ? 'Sink' : `Cut-out ${all.length + 1}`,
        outline: rectangle(x, y, width, height),
      },
    ]
  })
}
function duplicate(): void {
  desk.editSurface('duplicate piece', (s) => {
    const box = boxAround(props.piece.outline)
    const step = (box ? box.right - box.left : 1) + 0.2
    const copy = mapPoints(copyOf(props.piece), (p) => ({ x: p.x + step, y: p.y }))
    s.top?.pieces.push({ ...copy, name: `${copy.name}, copy`.slice(0, 120) })
  })
}
function setHeight(side: number, height: number): void {
  change(`height ${side}`, (p) => {
    const edge = p.edges?.find((e) => e.side === side)
    if (edge) edge.height = height
  })
}
function setInside(side: number): void {
  change(`inside ${side}`, (p) => {
    const edge = p.edges?.find((e) => e.side === side)
    if (edge) edge.inside = edge.inside ? undefined : true
  })
}
</script>

<template>
  <FoldPanel class="piece" :open="open" :data-test="`piece-${piece.name}`" :title="piece.name">
    <div class="body">
      <NameField
        label="Name of the piece"
        :model-value="piece.name"
        @update:model-value="(n) => change('name', (p) => (p.name = n))"
      />
      <RectFields :ring="piece.outline" :from="{ x: 0, y: 0 }" :what="piece.name" @ring="reshape" />
      <table class="figures small">
        <tbody>
          <tr v-for="s in sides" :key="s.number">
            <th scope="row">Side {{ s.number }}, {{ session.format('length', s.length) }}</th>
            <td>
              <PickField
                bare
                :label="`What side ${s.number} of ${piece.name} is`"
                :model-value="s.edge?.kind ?? 'wall'"
                :options="kinds"
                @update:model-value="emit('edge', piece.id, s.number, $event as TopEdge['kind'])"
              />
            </td>
            <td>
              <QuantityField
                v-if="s.edge && s.edge.kind !== 'exposed'"
                kind="length"
                label="Height"
                :model-value="s.edge.height ?? 0"
                :disabled="!session.mayEdit"
                positive
                @update:model-value="setHeight(s.number, $event)"
              />
              <TickField
                v-if="s.edge?.kind === 'waterfall'"
                label="inner face, too"
                :model-value="s.edge.inside"
                :disabled="!session.mayEdit"
                @update:model-value="setInside(s.number)"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <FoldPanel
        v-for="c in piece.cutouts ?? []"
        :key="c.id"
        class="cutout"
        :open="c.id === added"
        :title="`Cut-out: ${c.name}`"
      >
        <EntryHead
          label="Cut-out"
          :name="c.name"
          @rename="(n) => changeCutout(c.id, 'name', (cut) => (cut.name = n))"
          @remove="change('remove cut-out', (p) => (p.cutouts = p.cutouts?.filter((one) => one.id !== c.id)))"
        />
        <RectFields
          :ring="c.outline"
          :from="corner"
          :what="c.name"
          @ring="(points, label) => changeCutout(c.id, label, (cut) => (cut.outline = points))"
        />
      </FoldPanel>
      <div v-if="session.mayEdit" class="row">
        <v-btn size="small" :data-test="`cut-${piece.name}`" @click="addCutout">Add a cut-out</v-btn>
        <v-btn size="small" @click="duplicate">Duplicate</v-btn>
        <v-btn
          size="small"
          variant="text"
          :aria-label="`Remove ${piece.name}`"
          @click="
            desk.editSurface(
              'remove piece',
              (s) => s.top && (s.top.pieces = s.top.pieces.filter((p) => p.id !== piece.id)),
            )
          "
          >Remove</v-btn
        >
      </div>
    </div>
  </FoldPanel>
</template>

<style scoped>
.piece {
  border-left: 4px solid var(--line);
  padding-left: 10px;
}
.body {
  display: grid;
  gap: 10px;
  margin-top: 10px;
}
.cutout {
  border-left: 4px solid var(--faint);
  padding-left: 10px;
}
table.figures td,
table.figures th {
  padding-block: 2px;
}
</style>
