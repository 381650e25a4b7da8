<script setup lang="ts">
import TextField from '../../fields/TextField.vue'
import { nextTick, onMounted, ref, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useSession } from '../../session/session'

const session = useSession()
const route = useRoute()
const router = useRouter()
const email = ref('')
const password = ref('')
const code = ref('')
const trouble = ref('')
const busy = ref(false)
const factor = useTemplateRef<{ focus: () => void }>('factor')
const first = ref<{ focus: () => void } | null>(null)
// At once, and only once: a focus that comes late would pull a quick typist back.
onMounted(() => first.value?.focus())

async function enter(): Promise<void> {
  if (!email.value || !password.value) {
    trouble.value = 'Enter both your e-mail address and your password.'
    return
  }
  busy.value = true
  trouble.value = (await session.signIn(email.value, password.value, code.value || undefined)) ?? ''
  busy.value = false
  if (session.codeWanted) {
    await nextTick()
    factor.value?.focus()
  }
  if (trouble.value) return
  const next = String(route.query.next ?? '/jobs')
  await router.push(next.startsWith('/') && !next.startsWith('//') ? next : '/jobs')
}
</script>

<template>
  <div class="entry">
    <div class="cut" aria-hidden="true">
      <svg viewBox="0 0 600 800" preserveAspectRatio="xMidYMax slice">
        <rect width="600" height="800" fill="#12312f" />
        <g fill="#8c9a94">
          <rect y="610" width="600" height="190" />
        </g>
        <g fill="#6f7d77">
          <circle
            v-for="n in 46"
            :key="n"
            :cx="(n * 137) % 600"
            :cy="630 + ((n * 71) % 165)"
            :r="3 + (n % 5) * 2"
          />
        </g>
        <rect y="560" width="600" height="50" fill="#4a6b7c" />
        <rect y="446" width="600" height="114" fill="#3fa796" />
        <path d="M0 446H600V424H410C380 424 372 436 340 436H0Z" fill="#e2a13b" />
        <g stroke="#eef4f2" stroke-width="2" opacity=".7">
          <path v-for="n in 31" :key="n" :d="`M${(n - 1) * 20} 0v${n % 5 === 1 ? 34 : 18}`" />
        </g>
      </svg>
    </div>
    <form class="form" novalidate @submit.prevent="enter">
      <p class="name">Nephelon</p>
      <h1>From the tape measure to the mix card</h1>
      <p class="quiet mb-4">Measure the surface, build up the coats, and know what to buy, mix and pour.</p>
      <TextField
        ref="first"
        v-model="email"
        label="E-mail address"
        type="email"
        name="email"
        autocomplete="username"
        class="mb-3"
      />
      <TextField
        v-model="password"
        label="Password"
        type="password"
        name="password"
        autocomplete="current-password"
        class="mb-3"
      />
      <TextField
        v-if="session.codeWanted"
        ref="factor"
        v-model="code"
        label="Code of the second factor"
        name="code"
        autocomplete="one-time-code"
        class="mb-3"
      />
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <v-btn type="submit" color="primary" variant="flat" size="large" :loading="busy">Sign in</v-btn>
    </form>
  </div>
</template>

<style scoped>
.entry {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  min-height: 100vh;
}
.cut svg {
  display: block;
  width: 100%;
  height: 100%;
  position: absolute;
}
.cut {
  position: relative;
}
.form {
  max-width: 460px;
  width: 100%;
  margin: auto;
  padding: 32px 24px;
}
.name {
  font-weight: 760;
  font-size: 1.2rem;
  letter-spacing: -0.02em;
  margin-bottom: 40px;
}
h1 {
  font-size: 2.1rem;
  margin-bottom: 10px;
}
.trouble {
  color: var(--stop);
  font-weight: 600;
  margin-bottom: 14px;
}
@media (max-width: 700px) {
  .entry {
    grid-template-columns: 1fr;
    grid-template-rows: 120px 1fr;
  }
}
</style>
