<script setup lang="ts">
import { computed } from 'vue'
import type { StaleSave } from '../../api/client'
import { minuteTime } from '../../fields/clock'

const props = defineProps<{ stale: StaleSave }>()
defineEmits<{ settle: [choice: 'mine' | 'theirs' | 'combined'] }>()
const at = computed(() => minuteTime(props.stale.theirs.changedAt))
const groups = computed(() =>
  [
    { by: 'theirs', title: `${props.stale.theirs.changedBy} changed` },
    { by: 'mine', title: 'You changed' },
    { by: 'both', title: 'You both changed' },
  ]
    .map((g) => ({ ...g, places: props.stale.differences.filter((d) => d.by === g.by) }))
    .filter((g) => g.places.length > 0),
)
const clash = computed(() => props.stale.differences.some((d) => d.by === 'both'))
</script>

<template>
  <v-dialog :model-value="true" persistent aria-label="Changed by someone else">
    <div class="sheet conflict" data-test="conflict">
      <h2>Changed by {{ stale.theirs.changedBy }} at {{ at }}</h2>
      <p>Both of you edited this job. Nothing is overwritten until you choose which version to keep.</p>
      <section v-for="g in groups" :key="g.by">
        <h3>{{ g.title }}</h3>
        <ul>
          <li v-for="d in g.places" :key="d.path">{{ d.place || 'the whole job' }}</li>
        </ul>
      </section>
      <div class="row">
        <v-btn color="primary" variant="flat" autofocus @click="$emit('settle', 'combined')">
          {{ clash ? 'Merge; keep mine where both changed' : 'Merge both' }}
        </v-btn>
        <v-btn @click="$emit('settle', 'theirs')">Use theirs, discard mine</v-btn>
        <v-btn @click="$emit('settle', 'mine')">Keep mine, replace theirs</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.conflict {
  padding: 24px;
  display: grid;
  gap: 14px;
}
ul {
  padding-left: 20px;
  max-height: 24vh;
  overflow: auto;
}
</style>
