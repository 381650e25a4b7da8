import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, refusal, type Me, type Units } from '../../api/client'
import { format as formatIn, type Kind } from '../../fields/units'

/** Who is signed in, and the units they read. */
export const useSession = defineStore('session', () => {
  const me = ref<Me | null>(null)
  const asked = ref(false)
  const units = computed<Units>(() => me.value?.units ?? 'metric')
  const mayEdit = computed(() => me.value !== null && me.value.role !== 'hand')
  /** Whether they keep the shelf, the systems and the house methods. */
  const mayKeep = computed(() => me.value?.role === 'owner' || me.value?.role === 'estimator')

  async function ask(): Promise<void> {
    const { data } = await api.GET('/api/me')
    me.value = data ?? null
    asked.value = true
  }

  /** Returns why it failed, or null. */
  async function signIn(email: string, password: string): Promise<string | null> {
    try {
      const { data, error } = await api.POST('/api/session', { body: { email, password } })
      if (!data) return refusal(error, 'Signing in failed. Try again.')
      me.value = data
      asked.value = true
      return null
    } catch {
      return 'The server does not answer. Check the connection and try again.'
    }
  }

  async function signOut(): Promise<void> {
    await api.DELETE('/api/session')
    me.value = null
  }

  async function setUnits(wanted: Units): Promise<void> {
    if (!me.value) return
    const { data } = await api.PUT('/api/me/units', { body: { units: wanted } })
    if (data) me.value = data
  }

  function format(kind: Kind, si: number): string {
    return formatIn(kind, si, units.value)
  }

  return { me, asked, units, mayEdit, mayKeep, ask, signIn, signOut, setUnits, format }
})
