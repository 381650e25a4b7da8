<script setup lang="ts">
import { useRoute } from 'vue-router'
import SiteHead from './shell/SiteHead.vue'
import { useSession } from './features/people/session'

const session = useSession()
const route = useRoute()
</script>

<template>
  <v-app>
    <a class="skip" href="#main">Skip to the work</a>
    <SiteHead v-if="session.me && !route.meta.open" />
    <main id="main" tabindex="-1">
      <router-view :key="route.path" />
    </main>
  </v-app>
</template>
