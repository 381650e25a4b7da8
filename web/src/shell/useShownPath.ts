import { createGlobalState } from '@vueuse/core'
import { ref } from 'vue'

/** The address of the page that is mounted, which the address bar is ahead of by a frame. */
export const useShownPath = createGlobalState(() => ref(''))
