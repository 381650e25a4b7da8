<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { computed, ref } from 'vue'
import type { Verdict } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { newId } from '../job/blank'
import { useSession } from '../../session/session'
import { useShelf } from '../shelf/store'

/** Fit, fit after, not fit: each with its reason, its source and the way out. */
const props = defineProps<{ verdicts: Verdict[] }>()
const desk = useDesk()
const session = useSession()
const shelf = useShelf()
const words = { fit: 'Fit', unknown: 'Open', after: 'First', unfit: 'Not fit' }
/** What stands against coating comes first, then what nobody has looked at. */
const ranks = { unfit: 0, after: 1, unknown: 2, fit: 3 }
const ranked = computed(() => props.verdicts.toSorted((a, b) => ranks[a.fit] - ranks[b.fit]))
const asking = ref('')
const reason = ref('')
const LEAST = 3

function override(v: Verdict): void {
  const by = session.me?.name
  const text = reason.value.trim()
  if (!by || text.length < LEAST) return
  desk.editSurface('override', (s) => {
    if (!s.survey) return
    const others = (s.survey.overrides ?? []).filter((o) => o.id !== v.id)
    s.survey.overrides = [...others, { id: v.id, by, reason: text, at: new Date().toISOString() }]
  })
  asking.value = ''
  reason.value = ''
}
function takeBack(v: Verdict): void {
  desk.editSurface('take back override', (s) => {
    if (s.survey) s.survey.overrides = s.survey.overrides?.filter((o) => o.id !== v.id)
  })
}
/** Puts the shelf's moisture barrier under the coats. */
function addBarrier(): void {
  const product = shelf.lines.map((l) => l.sheet).find((p) => p.kind === 'moisture-barrier')
  if (!product) return
  desk.editSurface('moisture barrier', (s, f) => {
    if (!f.products.some((p) => p.id === product.id)) f.products.push(product)
    const wet = product.filmMin?.value ?? product.filmMax?.value ?? 0.0003
    s.coats.unshift({ id: newId(), product: product.id, amount: { basis: 'wet-film', value: wet } })
  })
}
</script>

<template>
  <div>
    <h3>Verdicts</h3>
    <ul class="verdicts">
      <li
        v-for="v in ranked"
        :key="v.id"
        :class="v.override ? 'unknown' : v.fit"
        :data-test="`verdict-${v.id}`"
      >
        <strong>{{ v.override ? 'Overridden' : words[v.fit] }}</strong>
        <div>
          <p>
            {{ v.text }} <b v-if="v.wayOut">{{ v.wayOut }}</b>
          </p>
          <p v-if="v.from" class="quiet small">{{ v.from }}</p>
          <p v-if="v.override" class="small">
            {{ v.override.by }} overrides this: {{ v.override.reason }}
            <v-btn v-if="session.mayEdit" size="small" variant="text" @click="takeBack(v)"
              >Void override</v-btn
            >
          </p>
          <div v-else-if="session.mayEdit && (v.fit === 'after' || v.fit === 'unfit')" class="row">
            <v-btn v-if="v.barrier" size="small" @click="addBarrier">Add a barrier primer</v-btn>
            <v-btn v-if="asking !== v.id" size="small" variant="text" @click="asking = v.id"
              >Override …</v-btn
            >
            <template v-else>
              <TextField
                v-model="reason"
                class="grow"
                label="Reason, saved in the record"
                maxlength="400"
                @keydown.enter.prevent="override(v)"
              />
              <v-btn size="small" :disabled="reason.trim().length < LEAST" @click="override(v)"
                >As {{ session.me?.name }}</v-btn
              >
            </template>
          </div>
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.verdicts {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 6px;
  margin-top: 8px;
}
li {
  display: grid;
  grid-template-columns: 5.6em 1fr;
  gap: 10px;
  border: 1px solid var(--line);
  border-left: 6px solid var(--good);
  padding: 6px 10px;
}
li.unknown {
  border-left: 6px dotted var(--quiet);
}
li.after {
  border-left: 6px dashed var(--warn);
}
li.unfit {
  border-left: 8px double var(--stop);
}
</style>
