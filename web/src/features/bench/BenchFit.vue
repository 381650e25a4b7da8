<script setup lang="ts">
import type { PailAnswer } from '../../api/client'
import { sourceWords } from '../../fields/sources'
import { useSession } from '../../session/session'

/** How well the model of a mix agrees with its sheet and with own timed batches. */
defineProps<{ fit: PailAnswer['fit'] }>()
const session = useSession()
</script>

<template>
  <section data-test="bench-fit">
    <h2>Sheet, own batches and the model</h2>
    <p v-if="fit.assumed" class="small">
      <b class="weak">Assumed.</b> One pot life is known; how it changes with mass and heat is that of its
      chemistry. Time a batch of the size you mix and enter it on the sheet as an own test.
    </p>
    <p v-else class="small">
      Fitted to all of them; the model misses by {{ session.format('fraction', fit.spread) }} in the mean.
      Between pails that were timed, their times rule.
    </p>
    <table class="figures">
      <thead>
        <tr>
          <th>Measured</th>
          <th class="num">Pot life</th>
          <th class="num">Model</th>
          <th>From</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(m, i) in fit.misses" :key="i">
          <td>
            {{ m.film ? `film of ${session.format('film', m.film)}` : session.format('mass', m.mass ?? 0) }}
            at
            {{ session.format('temperature', m.at) }}
          </td>
          <td class="num">{{ session.format('span', m.lasts) }}</td>
          <td class="num">{{ session.format('span', m.model) }}</td>
          <td class="small">{{ sourceWords[m.source] }}</td>
        </tr>
      </tbody>
    </table>
    <p class="small quiet mt-2">
      No longer usable when {{ session.format('fraction', fit.usable) }} have reacted, gelled at
      {{ session.format('fraction', fit.gel) }}.
    </p>
  </section>
</template>

<style scoped>
h2 {
  font-size: 1.05rem;
}
</style>
