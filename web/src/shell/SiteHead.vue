<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { mdiMagnify, mdiMenu, mdiThemeLightDark } from '@mdi/js'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useSession } from '../session/session'
import { pages } from './pages'
import { useDaylight } from './useDaylight'
import SignOut from './SignOut.vue'
import UnitSwitch from './UnitSwitch.vue'

const emit = defineEmits<{ palette: [] }>()
const session = useSession()
const route = useRoute()
const { turn } = useDaylight()
/** Wide enough for the face of the clock beside the units. */
const roomy = useMediaQuery('(min-width: 1400px)')
/** On a phone the rest of the head unfolds. */
const unfolded = ref(false)
watch(
  () => route.path,
  () => (unfolded.value = false),
)

const shown = computed(() => pages.filter((p) => !p.edits || session.mayEdit))
</script>

<template>
  <header class="head no-print">
    <router-link class="mark" to="/jobs" aria-label="Nephelon, to the jobs">
      <svg viewBox="0 0 32 18" aria-hidden="true">
        <rect x="0" y="12" width="32" height="6" fill="#8c9a94" />
        <rect x="0" y="5" width="32" height="6" fill="#3fa796" />
        <rect x="0" y="0" width="21" height="4" fill="#e2a13b" />
      </svg>
      Nephelon
    </router-link>
    <v-btn
      :icon="mdiMenu"
      class="unfold"
      size="small"
      variant="text"
      aria-label="Menu"
      :aria-expanded="unfolded"
      @click="unfolded = !unfolded"
    />
    <div class="rest" :class="{ unfolded }">
      <nav aria-label="Main">
        <router-link v-for="p in shown" :key="p.to" :to="p.to">{{ p.title }}</router-link>
      </nav>
      <span class="grow" />
      <UnitSwitch :face="unfolded || roomy" />
      <v-btn
        :icon="mdiMagnify"
        size="small"
        variant="text"
        aria-label="Go to a job, page or product (Ctrl K)"
        data-test="to-palette"
        @click="emit('palette')"
      />
      <v-btn
        :icon="mdiThemeLightDark"
        size="small"
        variant="text"
        aria-label="Light or dark colours"
        @click="turn"
      />
      <router-link v-tooltip="session.me?.company" to="/account" class="who small">
        {{ session.me?.name }}<span class="quiet">, {{ session.me?.role }}</span>
      </router-link>
      <SignOut />
    </div>
  </header>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 6px 24px;
  background: #12312f;
  color: #eef4f2;
}
.rest {
  display: flex;
  flex: 1;
  align-items: center;
  gap: 8px;
  min-width: 0;
}
.unfold {
  display: none;
}
.mark {
  min-height: 44px;
  display: flex;
  align-items: center;
  gap: 10px;
  font-weight: 760;
  font-size: 1.08rem;
  letter-spacing: -0.02em;
  color: inherit;
  text-decoration: none;
}
.mark svg {
  width: 34px;
}
nav {
  display: flex;
  gap: 4px;
}
nav a {
  color: inherit;
  text-decoration: none;
  padding: 6px 8px;
  font-weight: 600;
  border-bottom: 3px solid transparent;
}
nav a.router-link-active {
  border-bottom-color: #e2a13b;
}
.head :deep(.quiet) {
  color: #b9cbc6;
}
.head :focus-visible {
  outline-color: #e2a13b;
}
.who {
  color: inherit;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 1180px) {
  .who {
    display: none;
  }
}
@media (max-width: 1100px) {
  .head {
    position: relative;
    padding: 4px 12px;
    max-height: 56px;
  }
  .unfold {
    display: inline-grid;
    margin-left: auto;
  }
  .rest {
    display: none;
  }
  .rest.unfolded .who {
    display: inline;
  }
  .rest.unfolded {
    display: flex;
    flex-wrap: wrap;
    position: absolute;
    z-index: 40;
    top: 100%;
    left: 0;
    right: 0;
    padding: 8px 12px 14px;
    background: #12312f;
  }
  .rest nav {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    width: 100%;
    margin: 0;
  }
  .rest nav a {
    padding: 12px;
  }
}
</style>
