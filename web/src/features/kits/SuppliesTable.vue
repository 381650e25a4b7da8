<script setup lang="ts">
import { computed, onMounted } from 'vue'
import type { Plan } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { isOwnTool, useShelf } from '../shelf/store'
import { money } from '../../session/units'
import { useSession } from '../../session/session'
import FoldPanel from '../../fields/FoldPanel.vue'

/** What preparation takes, with its packs; what has none is given some on the shelf. */
const desk = useDesk()
const session = useSession()
const shelf = useShelf()
type Supply = Plan['supplies'][number]
const supplies = computed(() => desk.plan.value.supplies)
const amount = (s: Supply, of: number): string => session.format(s.kind, of)
/** Tools and preparation materials of the shelf that the job does not have, or has otherwise. */
const newer = computed(() => {
  const held = desk.file.value.media ?? []
  return shelf.media.filter((m) => {
    const own = held.find((h) => h.id === m.id)
    return isOwnTool(m) && (own?.version ?? -1) < (m.version ?? 0)
  })
})
function take(): void {
  desk.editor.edit('packs of the shelf', (f) => {
    const kept = (f.media ?? []).filter((m) => !newer.value.some((n) => n.id === m.id))
    f.media = [...kept, ...newer.value]
  })
}
onMounted(() => shelf.load())
</script>

<template>
  <FoldPanel v-if="supplies.length > 0" class="mt-3" data-test="supplies">
    <template #title>Preparation materials, {{ supplies.length }} lines</template>
    <div class="scroll" tabindex="0" role="region" aria-label="Preparation materials to buy">
      <table class="figures">
        <thead>
          <tr>
            <th>Material</th>
            <th class="num">Need</th>
            <th>For</th>
            <th>Buy</th>
            <th v-if="session.seesPrices" class="num">Cost</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in supplies" :key="s.name + s.kind">
            <td>{{ s.name }}</td>
            <td class="num">{{ amount(s, s.value) }}</td>
            <td class="small">{{ s.steps.join(', ') }}</td>
            <td>
              {{
                s.lines.map((l) => `${l.count} × ${l.pack}`).join(', ') ||
                (s.stock ? 'from stock' : 'no pack known')
              }}
              <span v-if="s.stock" class="quiet small">{{ amount(s, s.stock) }} in stock</span>
              <router-link
                v-if="session.mayKeep && s.cost === undefined && !s.medium"
                class="small"
                :to="{ path: '/shelf/media', query: { supply: s.name, unit: s.kind } }"
                >enter packs and price</router-link
              >
            </td>
            <td v-if="session.seesPrices" class="num">
              {{ s.cost === undefined ? '—' : money(s.cost, desk.file.value.job.currency) }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <v-btn
      v-if="session.mayEdit && newer.length > 0"
      size="small"
      class="mt-2"
      data-test="take-packs"
      @click="take"
      >Take the shelf’s packs and prices</v-btn
    >
  </FoldPanel>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
</style>
