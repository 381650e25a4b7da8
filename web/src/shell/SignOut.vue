<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { letGo, waiting } from '../api/patience'
import { dropEdits, editsLeft } from '../api/outbox'
import { dropPhotos, photosLeft } from '../record/photos'
import { useSession } from '../session/session'
import { dropEvents, eventsLeft } from '../record/journal'

/** Signing out. What was not sent yet is not left behind unasked: the device may be shared. */
const session = useSession()
const router = useRouter()
const left = ref(0)
const open = ref(false)
const trouble = ref('')

async function ask(): Promise<void> {
  const me = session.me?.id ?? ''
  trouble.value = ''
  const counts = await Promise.all([editsLeft(me), eventsLeft(me), photosLeft(me)])
  left.value = counts.reduce((sum, n) => sum + n, waiting.value)
  if (left.value > 0) open.value = true
  else await leave(false)
}
async function leave(throwAway: boolean): Promise<void> {
  const me = session.me?.id ?? ''
  try {
    await session.signOut()
  } catch {
    trouble.value = 'The server does not answer: you are still signed in there. Sign out when it is back.'
    open.value = true
    return
  }
  letGo()
  if (throwAway) await Promise.all([dropEdits(me), dropEvents(me), dropPhotos(me)])
  open.value = false
  await router.push('/sign-in')
}
</script>

<template>
  <v-btn size="small" variant="text" @click="ask">Sign out</v-btn>
  <v-dialog v-model="open" max-width="560" aria-label="Sign out">
    <div class="sheet pa-5 ask" data-test="unsent">
      <h2>{{ left === 1 ? 'One entry was' : `${left} entries were` }} not sent yet</h2>
      <p v-if="trouble" role="alert">{{ trouble }}</p>
      <p>
        Stay signed in until they are sent. Or leave them on this device: they are bound to you, and sent when
        you sign in here again. On a device that others use, and that you will not use again, discard them.
      </p>
      <div class="row">
        <v-btn color="primary" variant="flat" @click="open = false">Stay signed in</v-btn>
        <v-btn @click="leave(false)">Keep them and sign out</v-btn>
        <v-btn variant="text" @click="leave(true)">Discard them and sign out</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.ask {
  display: grid;
  gap: 12px;
}
.row {
  flex-wrap: wrap;
}
</style>
