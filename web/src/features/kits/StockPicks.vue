<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { api, type Container, type StockGroup } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'
import TickField from '../../fields/TickField.vue'
import FoldPanel from '../../fields/FoldPanel.vue'

/** What is in stock of the products of this job, to be reserved for it. */
const props = defineProps<{ jobId: string }>()
const desk = useDesk()
const session = useSession()
const groups = ref<StockGroup[]>([])
const { trouble, ask } = useRequest()

async function load(): Promise<void> {
  const { data } = await ask(
    api.GET('/api/stock'),
    'The stock cannot be read.',
    'The server does not answer; the stock will be read when it is back.',
  )
  groups.value = data ?? []
}
void load()
const parts = { kit: 'kit', A: 'A', B: 'B', C: 'C', medium: '' }
const reserved = computed(() => desk.file.value.job.stock ?? [])
const named = computed(
  () =>
    new Set([
      ...desk.file.value.products.map((p) => p.id),
      ...(desk.file.value.media ?? []).map((m) => m.id),
    ]),
)
const lines = computed(() =>
  groups.value
    .filter((g) => named.value.has(g.sheet))
    .flatMap((g) =>
      g.lines.map((l) => ({
        ...l,
        name: g.name,
        mine: reserved.value.some((c) => c.id === l.container.id),
        others: l.reservedBy.filter((r) => r.job !== props.jobId),
      })),
    ),
)
/** Reserved containers that are no longer in stock. */
const lost = computed(() =>
  reserved.value.filter((c) => !groups.value.some((g) => g.lines.some((l) => l.container.id === c.id))),
)

function turn(c: Container, mine: boolean): void {
  desk.editor.edit(`stock ${c.id}`, (f) => {
    const others = (f.job.stock ?? []).filter((o) => o.id !== c.id)
    const next = mine ? others : [...others, c]
    f.job.stock = next.length > 0 ? next : undefined
  })
}
function left(c: Container): string {
  return c.part === 'medium' ? session.format('mass', c.mass ?? 0) : session.format('volume', c.volume ?? 0)
}
</script>

<template>
  <FoldPanel
    v-if="lines.length > 0 || reserved.length > 0"
    class="mt-3"
    data-test="stock-picks"
    @opened="load"
  >
    <template #title>
      In stock of these products: {{ lines.length
      }}{{ reserved.length ? `, ${reserved.length} reserved for this job` : '' }}
    </template>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <ul class="stock small">
      <li v-for="l in lines" :key="l.container.id">
        <TickField
          :model-value="l.mine"
          :disabled="!l.mine && (l.others.length > 0 || l.container.touchUp)"
          @update:model-value="turn(l.container, l.mine)"
        >
          <b>{{ l.name }}</b> {{ left(l.container) }} {{ parts[l.container.part]
          }}{{ l.container.lot ? `, lot ${l.container.lot}` : ''
          }}{{ l.container.expires ? `, ${l.expired ? 'expired' : 'until'} ${l.container.expires}` : ''
          }}{{ l.container.place ? `, ${l.container.place}` : '' }}
        </TickField>
        <span v-if="l.others.length" class="quiet"
          >reserved for {{ l.others.map((o) => o.name).join(', ') }}</span
        >
        <span v-if="l.container.touchUp" class="quiet">kept for touch-up</span>
      </li>
      <li v-for="c in lost" :key="c.id">
        {{ c.sheet }}, lot {{ c.lot ?? '—' }}, is no longer in stock.
        <v-btn size="small" variant="text" @click="turn(c, true)">Release it</v-btn>
      </li>
    </ul>
  </FoldPanel>
</template>

<style scoped>
.stock {
  list-style: none;
  padding: 0;
}
.stock li {
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
  padding: 4px 0;
}
</style>
