<script setup lang="ts">
import { useRequest } from '../../api/useRequest'
import TextField from '../../fields/TextField.vue'
import { computed, ref, watch } from 'vue'
import { api, sendPhoto, type PhotoLine } from '../../api/client'
import { smaller } from '../../api/picture'
import { useSession } from '../../session/session'

/** Photographs of a surface. */
const props = defineProps<{ jobId: string; surface: string }>()
const session = useSession()
const all = ref<PhotoLine[]>([])
const { trouble, ask } = useRequest()
const sending = ref(0)
const removed = ref<PhotoLine | null>(null)
const shown = ref<PhotoLine | null>(null)
const here = computed(() => all.value.filter((p) => p.surface === props.surface))
const MOST_MB = 12
const AWAY = 'The server does not answer; nothing was changed.'
const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' })

async function load(): Promise<void> {
  const { data } = await ask(
    api.GET('/api/jobs/{job}/photos', { params: { path: { job: props.jobId } } }),
    'The photographs cannot be read just now.',
  )
  if (data) all.value = data
}
watch(() => props.jobId, load, { immediate: true })

async function add(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  const failed: string[] = []
  sending.value = files.length
  for (const file of files) {
    // What this device cannot read is sent as it is: the server says what is wrong with it.
    const picture = await smaller(file).catch(() => file)
    if (picture.size > MOST_MB << 20) {
      failed.push(`${file.name} is larger than ${MOST_MB} MB. Send it in a smaller size.`)
    } else {
      const { data } = await ask(
        sendPhoto(props.jobId, props.surface, picture),
        'this picture cannot be added.',
        'the server does not answer. Choose it again when it is back.',
      )
      if (data) all.value = data
      else failed.push(`${file.name}: ${trouble.value}`)
    }
    sending.value--
  }
  trouble.value = failed.join(' ')
  input.value = ''
}

async function caption(photo: PhotoLine, event: Event): Promise<void> {
  const text = (event.target as HTMLInputElement).value.trim()
  const { ok } = await ask(
    api.PUT('/api/photos/{photo}/caption', {
      params: { path: { photo: photo.id } },
      body: { caption: text },
    }),
    'The caption was not saved.',
    AWAY,
  )
  if (ok) photo.caption = text
}

async function remove(photo: PhotoLine, away: boolean): Promise<void> {
  const { ok } = await ask(
    api.PUT('/api/photos/{photo}/removed', {
      params: { path: { photo: photo.id } },
      body: { removed: away },
    }),
    'The photograph stays as it is.',
    AWAY,
  )
  if (!ok) return
  removed.value = away ? photo : null
  shown.value = null
  await load()
}
</script>

<template>
  <div class="photos" data-test="photos">
    <p class="small head">
      <strong>Photographs</strong>
      <label v-if="session.mayEdit" class="add">
        <span>Add</span>
        <input
          type="file"
          accept="image/jpeg,image/png"
          multiple
          aria-label="Add photographs"
          @change="add"
        />
      </label>
      <span v-if="here.length === 0" class="quiet"
        >No photographs yet. Location and camera data are removed from what you add.</span
      >
    </p>
    <p v-if="sending > 0" class="small" role="status">Sending {{ sending }} …</p>
    <p v-if="trouble" class="small" role="alert">{{ trouble }}</p>
    <p v-if="removed" class="small" role="status">
      Removed. <v-btn size="small" @click="remove(removed, false)">Restore it</v-btn>
    </p>
    <ul v-if="here.length > 0">
      <li v-for="p in here" :key="p.id">
        <button
          type="button"
          class="plain"
          :aria-label="`Enlarge ${p.caption || 'the photograph'}`"
          @click="shown = p"
        >
          <img :src="`/api/photos/${p.id}/thumb`" :alt="p.caption || 'Photograph of the surface'" />
        </button>
        <span class="small">{{ p.caption }}</span>
      </li>
    </ul>
    <v-dialog
      :model-value="!!shown"
      max-width="1000"
      aria-label="Photograph"
      @update:model-value="shown = null"
    >
      <div v-if="shown" class="sheet large">
        <img :src="`/api/photos/${shown.id}/image`" :alt="shown.caption || 'Photograph of the surface'" />
        <div class="row">
          <TextField
            class="grow"
            label="What it shows"
            maxlength="300"
            :model-value="shown.caption"
            :readonly="!session.mayEdit"
            @change="caption(shown, $event)"
          />
          <span class="quiet small">{{ shown.addedBy }}, {{ when.format(new Date(shown.addedAt)) }}</span>
          <v-btn v-if="session.mayEdit" variant="text" @click="remove(shown, true)">Remove</v-btn>
          <v-btn @click="shown = null">Close</v-btn>
        </div>
      </div>
    </v-dialog>
  </div>
</template>

<style scoped>
.photos {
  flex: 1;
  min-width: 0;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
.add {
  position: relative;
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 4px 12px;
  cursor: pointer;
}
.add:focus-within {
  outline: 3px solid var(--cure);
}
.add input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
ul {
  list-style: none;
  padding: 0;
  margin-top: 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
li {
  width: 120px;
  display: grid;
  gap: 2px;
}
li img {
  width: 120px;
  height: 90px;
  object-fit: cover;
  border: 1px solid var(--line);
}
.large {
  padding: 16px;
  display: grid;
  gap: 12px;
}
.large img {
  max-width: 100%;
  max-height: 70vh;
  justify-self: center;
}
</style>
