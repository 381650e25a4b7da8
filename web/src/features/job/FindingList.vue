<script setup lang="ts">
import type { Finding } from '../../api/client'
import { useDesk } from './useEditor'
import { useSession } from '../../session/session'

defineProps<{ findings: Finding[] }>()
const desk = useDesk()
const session = useSession()
const words = { refused: 'Cannot be planned', warning: 'Warning', note: 'Note' }
</script>

<template>
  <ul v-if="findings.length > 0" class="findings">
    <li
      v-for="f in findings"
      :key="f.path + f.text"
      :class="f.level"
      :data-finding="f.path + f.text"
      tabindex="-1"
    >
      <strong>{{ words[f.level] }}</strong>
      <span
        >{{ f.text }} <span v-if="f.wayOut" class="way">{{ f.wayOut }}</span>
        <v-btn
          v-if="f.fix && session.mayEdit"
          size="small"
          class="fix"
          data-test="fix"
          @click="desk.take(f.fix)"
          >{{ f.fix.label }}</v-btn><template v-if="session.mayEdit"
          ><v-btn
            v-for="o in f.others ?? []"
            :key="o.label"
            size="small"
            class="fix"
            data-test="fix"
            @click="desk.take(o)"
            >{{ o.label }}</v-btn
          ></template
        ></span
      >
    </li>
  </ul>
</template>

<style scoped>
.findings {
  list-style: none;
  padding: 0;
  margin: 0 0 14px;
  display: grid;
  gap: 6px;
}
li {
  display: grid;
  grid-template-columns: 8.6em 1fr;
  gap: 12px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-left-width: 6px;
  background: var(--paper);
}
.refused {
  border-left: 6px double var(--stop);
}
.refused strong {
  color: var(--stop);
}
.warning {
  border-left-color: var(--warn);
}
.warning strong {
  color: var(--warn);
}
.note {
  border-left: 6px dotted var(--quiet);
}
.way {
  font-weight: 620;
}
.fix {
  margin-left: 6px;
}
@media (max-width: 700px) {
  li {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
