<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Medium, ShelfLine } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { newId } from '../job/blank'
import { useSession } from '../../session/session'
import { useShelf } from '../shelf/store'
import BuildupStack from '../../drawing/BuildupStack.vue'
import BuildUpTerms from './BuildUpTerms.vue'
import CoatRow from './CoatRow.vue'
import FindingList from '../job/FindingList.vue'
import NewerSheets from './NewerSheets.vue'
import { useInTurn } from '../../fields/useInTurn'
import ProductField from '../shelf/ProductField.vue'
import SystemDialog from './SystemDialog.vue'
import AssumedPanel from './AssumedPanel.vue'
import OwnFigures from './OwnFigures.vue'
import { useOwnFloors } from '../record/useOwnFloors'
import WaysDialog from './WaysDialog.vue'

const desk = useDesk()
const session = useSession()
const shelf = useShelf()
void shelf.load()
const choosing = ref(false)
const comparing = ref(false)
const figuring = ref(false)
const floors = useOwnFloors()
/** Whether own floors show anything of a product of this job. */
const shown = computed(() =>
  floors.value.some(
    (l) => l.estimates.some((e) => e.offered) && desk.file.value.products.some((p) => p.id === l.product),
  ),
)
/** The drawing comes first, then a coat a frame. */
const standing = useInTurn(desk.surface.value.coats.length + 2)

const media = computed<Medium[]>(() => {
  const own = desk.file.value.media ?? []
  return [...own, ...shelf.media.filter((m) => !own.some((o) => o.id === m.id))]
})
const topDown = computed(() => desk.surface.value.coats.map((coat, index) => ({ coat, index })).reverse())

const chosen = ref('')
/** The coat whose fields are open at first: the one just added, else the first. */
const opened = computed(() => {
  const { coats } = desk.surface.value
  return coats.some((c) => c.id === chosen.value) ? chosen.value : coats[0]?.id
})

function add(line: ShelfLine): void {
  chosen.value = newId()
  desk.editSurface('add coat', (s, file) => {
    s.coats.push({ id: chosen.value, product: line.sheet.id, amount: line.usual })
    if (!file.products.some((p) => p.id === line.sheet.id)) file.products.push(line.sheet)
  })
}

function reorder(from: number, to: number): void {
  desk.editSurface('order of coats', (s) => {
    const [moved] = s.coats.splice(from, 1)
    if (moved) s.coats.splice(to, 0, moved)
  })
}
</script>

<template>
  <section id="build-up" class="panel" aria-labelledby="buildup-title">
    <div class="row mb-3">
      <h2 id="buildup-title" class="grow">Build-up</h2>
      <v-btn v-if="session.mayEdit" size="small" data-test="compare-ways" @click="comparing = true"
        >Two ways …</v-btn
      >
      <v-btn v-if="shown && session.mayEdit" size="small" data-test="own-floors" @click="figuring = true"
        >Own floors …</v-btn
      >
      <v-btn v-if="session.mayEdit" size="small" data-test="systems" @click="choosing = true"
        >Systems …</v-btn
      >
    </div>
    <BuildUpTerms />
    <NewerSheets />
    <FindingList :findings="desk.findings('build-up')" />
    <div class="halves">
      <BuildupStack
        :coats="desk.surfacePlan.value?.coats ?? []"
        :movable="session.mayEdit"
        :currency="desk.file.value.job.currency"
        @move="reorder"
      />
      <div>
        <ProductField
          v-if="session.mayEdit && standing > 1"
          class="add"
          label="Add a coat of"
          data-test="add-coat"
          placeholder="name, kind, film or colour"
          :own="desk.file.value.products"
          @choose="add"
        />
        <p v-if="topDown.length === 0" class="quiet mt-4">
          No coats yet. Begin with a system, or with what goes on the bare surface: a barrier or a primer.
        </p>
        <ol class="coats" reversed>
          <CoatRow
            v-for="c in topDown.slice(0, standing - 1)"
            :key="c.coat.id"
            :coat="c.coat"
            :index="c.index"
            :open="c.coat.id === opened"
            :last="c.index === topDown.length - 1"
            :plan="desk.surfacePlan.value?.coats[c.index]"
            :below="c.index > 0 ? desk.surfacePlan.value?.coats[c.index - 1] : undefined"
            :media="media"
          />
        </ol>
      </div>
    </div>
    <AssumedPanel v-if="session.mayEdit && topDown.length > 0" />
    <SystemDialog v-model="choosing" />
    <WaysDialog v-model="comparing" />
    <OwnFigures v-model="figuring" />
  </section>
</template>

<style scoped>
.coats {
  list-style: none;
  padding: 0;
}
.add {
  max-width: 420px;
}
</style>
