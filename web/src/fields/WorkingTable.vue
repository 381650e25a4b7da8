<script setup lang="ts">
import type { Source, Working } from '../api/client'
import { sourceWords } from './sources'
import { useSession } from '../session/session'

defineProps<{ working: Working }>()
const session = useSession()
function words(source: string | undefined): string {
  return source ? sourceWords[source as Source] : ''
}
</script>

<template>
  <section>
    <h3>{{ working.title }}</h3>
    <p class="formula">{{ working.formula }}</p>
    <table class="figures">
      <tbody>
        <tr v-for="(v, i) in working.inputs" :key="i">
          <td>{{ v.name }}</td>
          <td class="num">{{ session.format(v.kind, v.si) }}</td>
          <td class="quiet small">{{ words(v.source) }}</td>
        </tr>
        <tr>
          <td>
            <strong>{{ working.result.name }}</strong>
          </td>
          <td class="num">
            <strong>{{ session.format(working.result.kind, working.result.si) }}</strong>
          </td>
          <td />
        </tr>
      </tbody>
    </table>
    <p class="quiet small">{{ working.source }}</p>
  </section>
</template>

<style scoped>
.formula {
  font-style: italic;
  margin: 4px 0;
}
</style>
