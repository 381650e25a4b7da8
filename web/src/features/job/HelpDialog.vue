<script setup lang="ts">
const open = defineModel<boolean>({ required: true })
const keys: [string, string][] = [
  ['?', 'Show this list'],
  ['Ctrl K', 'Go to a job, page, product or action'],
  ['Ctrl Z', 'Undo'],
  ['Ctrl Shift Z', 'Redo'],
  ['1 … 6', 'Go to a step'],
  ['[ and ]', 'The previous step, the next step'],
  ['.', 'The next finding that needs a decision'],
  ['D', 'Draw or type an outline'],
  ['← ↑ → ↓', 'The way of the next wall, while its length is empty (R, U, L, D outside the field)'],
  ['N', 'Add a surface'],
  ['P', 'Mix cards, to print'],
  ['Enter', 'Accept the entry'],
  ['Esc', 'Cancel a field or a drawing'],
]
</script>

<template>
  <v-dialog v-model="open" max-width="440" aria-label="Keyboard">
    <div class="sheet pa-6">
      <h2 class="mb-3">Keyboard</h2>
      <table class="figures">
        <tbody>
          <tr v-for="[k, what] in keys" :key="k">
            <td>
              <kbd>{{ k }}</kbd>
            </td>
            <td>{{ what }}</td>
          </tr>
        </tbody>
      </table>
      <v-btn class="mt-4" autofocus @click="open = false">Close</v-btn>
    </div>
  </v-dialog>
</template>
