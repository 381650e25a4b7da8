<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import AwayBar from './shell/AwayBar.vue'
import DrawnPage from './shell/DrawnPage.vue'
import SiteHead from './shell/SiteHead.vue'
import { useDaylight } from './shell/useDaylight'
import { useTold } from './shell/told'
import { useShownPath } from './shell/useShownPath'
import { useFocusKept } from './shell/useFocusKept'
import { useSession } from './session/session'

const session = useSession()
const route = useRoute()
useFocusKept(useRouter())
const { turn } = useDaylight()
const told = useTold()
const shown = useShownPath()
/** Read with the first message. */
const spoken = ref(false)
watch(
  () => told.early.length,
  () => (spoken.value = true),
)
const ToldQueue = defineAsyncComponent(() => import('./shell/ToldQueue.vue'))
const CommandPalette = defineAsyncComponent(() => import('./features/palette/CommandPalette.vue'))
/** Read when it is first wanted. */
const palette = ref<boolean>()
const inside = computed(() => !!session.me && !route.meta.open)
useEventListener(window, 'keydown', (event) => {
  if (!inside.value || event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return
  event.preventDefault()
  palette.value = true
})
/** The pages of one job share what they edit; every other address is a page of its own. */
const pageKey = computed(() => `${route.matched[0]?.path ?? ''} ${String(route.params.id ?? '')}`)
</script>

<template>
  <v-app>
    <a class="skip" href="#main">Skip to main content</a>
    <SiteHead v-if="inside && !route.meta.bare" @palette="palette = true" />
    <CommandPalette v-if="palette !== undefined && inside" v-model="palette" @theme="turn" />
    <AwayBar />
    <ToldQueue v-if="spoken" />
    <main id="main" tabindex="-1" :data-path="shown">
      <router-view v-slot="{ Component }" :key="pageKey">
        <DrawnPage v-if="Component" :title="String(route.meta.title ?? '')"
          ><component :is="Component"
        /></DrawnPage>
      </router-view>
    </main>
  </v-app>
</template>
