<script setup lang="ts">
import { computed } from 'vue'
import type { NewerSheet } from '../../api/client'
import { useDesk } from '../job/useEditor'
import { useSession } from '../../session/session'

/** Sheets that changed on the shelf since this job was planned with them. */
const desk = useDesk()
const session = useSession()
const newer = computed(() =>
  desk.editor.newer.value.filter((n) => {
    const held = desk.file.value.products.find((p) => p.id === n.sheet.id)
    return held !== undefined && (held.version ?? 0) < (n.sheet.version ?? 0)
  }),
)
function take(n: NewerSheet): void {
  desk.editor.edit(`new edition of ${n.sheet.name}`, (f) => {
    f.products = f.products.map((p) => (p.id === n.sheet.id ? n.sheet : p))
  })
}
</script>

<template>
  <ul v-if="newer.length > 0" class="newer" data-test="newer">
    <li v-for="n in newer" :key="n.sheet.id">
      <p>
        <strong>{{ n.sheet.name }}</strong> has a newer sheet on the shelf. This job uses edition
        {{ n.held }} until you change it to edition {{ n.sheet.version }}.
        <v-btn v-if="session.mayEdit" size="small" class="ml-2" @click="take(n)"
          >Change to edition {{ n.sheet.version }}</v-btn
        >
      </p>
      <ul class="small">
        <li v-for="c in n.changes" :key="c.name">
          {{ c.name }}: {{ c.was || 'not given' }} → <b>{{ c.is || 'not given' }}</b>
        </li>
      </ul>
    </li>
  </ul>
</template>

<style scoped>
.newer {
  list-style: none;
  padding: 8px 12px;
  margin: 0 0 12px;
  border: 1px dashed var(--ink);
}
</style>
