<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import AwayBar from './shell/AwayBar.vue'
import SiteHead from './shell/SiteHead.vue'
import { useSession } from './session/session'

const session = useSession()
const route = useRoute()
/** The pages of one job share what they edit; every other address is a page of its own. */
const pageKey = computed(() => `${route.matched[0]?.path ?? ''} ${String(route.params.id ?? '')}`)
</script>

<template>
  <v-app>
    <a class="skip" href="#main">Skip to main content</a>
    <SiteHead v-if="session.me && !route.meta.open && !route.meta.bare" />
    <AwayBar />
    <main id="main" tabindex="-1">
      <router-view :key="pageKey" />
    </main>
  </v-app>
</template>
