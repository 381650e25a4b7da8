<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, type Together } from '../../api/client'
import { money } from '../../session/units'
import { useSession } from '../../session/session'

/** What several jobs buy in one purchase, against each buying its own. */
const route = useRoute()
const session = useSession()
const found = ref<Together | null>(null)
const { trouble, ask } = useRequest()
const jobs = computed(() => [route.query.job ?? []].flat().filter((v): v is string => !!v))
const saved = computed(() =>
  found.value?.apart !== undefined && found.value.cost !== undefined
    ? found.value.apart - found.value.cost
    : undefined,
)

async function load(): Promise<void> {
  if (jobs.value.length === 0) {
    trouble.value = 'Tick the jobs that buy together on the list of jobs.'
    return
  }
  const { data } = await ask(
    api.GET('/api/purchase', { params: { query: { job: jobs.value } } }),
    'The combined purchase of these jobs cannot be calculated.',
  )
  if (data) found.value = data
}
void load()
function print(): void {
  window.print()
}
function price(amount: number | undefined): string {
  return amount === undefined ? 'no price' : money(amount, found.value?.currency ?? 'EUR')
}
</script>

<template>
  <div class="page">
    <p class="small no-print"><router-link to="/jobs">← Jobs</router-link></p>
    <div class="row mb-3">
      <h1 class="grow">Combined purchase: {{ jobs.length }} {{ jobs.length === 1 ? 'job' : 'jobs' }}</h1>
      <v-btn class="no-print" @click="print">Print</v-btn>
    </div>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="!found" class="quiet">Calculating the purchase …</p>
    <template v-else>
      <p data-test="together">
        Kits together <b class="figure">{{ price(found.cost) }}</b>
        <template v-if="saved !== undefined"
          >, apart {{ price(found.apart) }}: <b>{{ price(saved) }}</b> saved.</template
        >
      </p>
      <ul v-if="found.notes.length > 0">
        <li v-for="n in found.notes" :key="n">{{ n }}</li>
      </ul>
      <p v-if="found.lines.length === 0" class="quiet">None of these jobs needs a kit yet.</p>
      <div v-else class="sheet panel scroll" tabindex="0" role="region" aria-label="Kits bought together">
        <table class="figures">
          <thead>
            <tr>
              <th>Product</th>
              <th>For</th>
              <th class="num">Need</th>
              <th>Buy</th>
              <th class="num">Left over</th>
              <th class="num">Cost</th>
              <th class="num">Apart</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in found.lines" :key="l.product + (l.hardener ?? '')">
              <td>
                <svg class="chip" aria-hidden="true"><rect width="14" height="14" :fill="l.color" /></svg
                >{{ l.name }}
              </td>
              <td class="small">
                <span v-for="j in l.jobs" :key="j.job" class="line"
                  >{{ j.job }} {{ session.format('volume', j.need) }}</span
                >
              </td>
              <td class="num">{{ session.format('volume', l.need) }}</td>
              <td>
                <span v-for="k in l.lines" :key="k.kit" class="line">{{ k.count }} × {{ k.kit }}</span>
                <span v-if="l.inStock" class="line small quiet"
                  >{{ session.format('volume', l.inStock) }} from stock</span
                >
              </td>
              <td class="num">{{ session.format('volume', l.leftover) }}</td>
              <td class="num">{{ price(l.cost) }}</td>
              <td class="num quiet">{{ price(l.apart) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div
        v-if="found.others.length > 0"
        class="sheet panel scroll mt-4"
        tabindex="0"
        role="region"
        aria-label="Other materials bought together"
        data-test="together-others"
      >
        <table class="figures">
          <caption class="small quiet">
            What is scattered or stirred in, and what preparation takes. Tools are each job’s own.
          </caption>
          <thead>
            <tr>
              <th>Material</th>
              <th>For</th>
              <th class="num">Need</th>
              <th>Buy</th>
              <th class="num">Cost</th>
              <th class="num">Apart</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="o in found.others" :key="o.name + o.kind">
              <td>{{ o.name }}</td>
              <td class="small">
                <span v-for="j in o.jobs" :key="j" class="line">{{ j }}</span>
              </td>
              <td class="num">{{ session.format(o.kind, o.value) }}</td>
              <td>
                <span v-for="l in o.lines" :key="l.pack" class="line">{{ l.count }} × {{ l.pack }}</span>
                <span v-if="o.lines.length === 0" class="quiet">{{
                  o.stock ? 'from stock' : 'no pack known'
                }}</span>
                <span v-if="o.stock" class="line small quiet"
                  >{{ session.format(o.kind, o.stock) }} from stock</span
                >
              </td>
              <td class="num">{{ price(o.cost) }}</td>
              <td class="num quiet">{{ price(o.apart) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small quiet mt-3">
        Use one lot of a colour on one visible floor: ask for it when you order, and keep each job's share
        together.
      </p>
    </template>
  </div>
</template>

<style scoped>
.line {
  display: block;
  white-space: nowrap;
}
.panel {
  padding: 12px 18px;
}
.scroll {
  overflow-x: auto;
}
</style>
