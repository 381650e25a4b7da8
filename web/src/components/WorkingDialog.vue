<script setup lang="ts">
import { computed } from 'vue'
import type { Source } from '../api/client'
import { useDesk } from '../composables/useEditor'
import { sourceWords } from '../lib/sources'
import { useSession } from '../stores/session'

const desk = useDesk()
const session = useSession()
const open = computed({
  get: () => desk.workings.value.length > 0,
  set: (value) => {
    if (!value) desk.workings.value = []
  },
})
function words(source: string | undefined): string {
  return source ? sourceWords[source as Source] : ''
}
</script>

<template>
  <v-dialog v-model="open" aria-label="How this was worked out">
    <div class="sheet working">
      <div class="row">
        <h2 class="grow">How this was worked out</h2>
        <v-btn variant="text" autofocus @click="open = false">Close</v-btn>
      </div>
      <section v-for="w in desk.workings.value" :key="w.title">
        <h3>{{ w.title }}</h3>
        <p class="formula">{{ w.formula }}</p>
        <table class="figures">
          <tbody>
            <tr v-for="(v, i) in w.inputs" :key="i">
              <td>{{ v.name }}</td>
              <td class="num">{{ session.format(v.kind as never, v.si) }}</td>
              <td class="quiet small">{{ words(v.source) }}</td>
            </tr>
            <tr>
              <td>
                <strong>{{ w.result.name }}</strong>
              </td>
              <td class="num">
                <strong>{{ session.format(w.result.kind as never, w.result.si) }}</strong>
              </td>
              <td />
            </tr>
          </tbody>
        </table>
        <p class="quiet small">{{ w.source }}</p>
      </section>
    </div>
  </v-dialog>
</template>

<style scoped>
.working {
  padding: 20px 24px;
  display: grid;
  gap: 18px;
  max-height: 86vh;
  overflow: auto;
}
.formula {
  font-style: italic;
  margin: 4px 0;
}
</style>
