import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, refusal, type Clock, type Me, type Units } from '../api/client'
import { format as formatIn, pricePerArea, type Kind } from './units'

/** Who is signed in, and how they read figures and times. */
export const useSession = defineStore('session', () => {
  const me = ref<Me | null>(null)
  const remembered = useLocalStorage<Me | null>('nephelon.me', null, {
    serializer: { read: (text) => JSON.parse(text) as Me | null, write: (value) => JSON.stringify(value) },
  })
  const asked = ref(false)
  const units = computed<Units>(() => me.value?.units ?? 'metric')
  const clock = computed<Clock>(() => me.value?.clock ?? '24')
  /** Units and clock, as the rules of the record take them on this device. */
  const reads = computed(() => (clock.value === '12' ? `${units.value}+12h` : units.value))
  const mayEdit = computed(() => me.value !== null && me.value.role !== 'hand')
  /** Whether the server tells them what materials and work cost. */
  const seesPrices = mayEdit
  /** Whether they keep the shelf, the systems and the company standards. */
  const mayKeep = computed(() => me.value?.role === 'owner' || me.value?.role === 'estimator')

  async function ask(): Promise<void> {
    try {
      const { data } = await api.GET('/api/me')
      me.value = data ?? null
      asked.value = true
      remembered.value = me.value
    } catch (error) {
      me.value = remembered.value // a day runs on without a network
      throw error
    }
  }

  /** Whether the password was right and the code of a second factor is asked for. */
  const codeWanted = ref(false)

  /** Returns why it failed, or null. */
  async function signIn(email: string, password: string, code?: string): Promise<string | null> {
    try {
      const { data, error } = await api.POST('/api/session', { body: { email, password, code } })
      if (!data) {
        codeWanted.value = error.errors?.some((e) => e.location === 'body.code') ?? false
        return codeWanted.value
          ? (error.detail ?? 'Enter the code.')
          : refusal(error, 'Signing in failed. Try again.')
      }
      codeWanted.value = false
      me.value = data
      remembered.value = data
      asked.value = true
      return null
    } catch {
      return 'The server does not answer. Check the connection and try again.'
    }
  }

  async function signOut(): Promise<void> {
    await api.DELETE('/api/session')
    me.value = null
    remembered.value = null
  }

  async function setReading(wanted: { units?: Units; clock?: Clock }): Promise<void> {
    if (!me.value) return
    const { data } = await api.PUT('/api/me/units', { body: wanted })
    if (data) remembered.value = me.value = data
  }

  /** What is taken of something by mass, else by volume. */
  function amount(of: { mass?: number; volume?: number }): string {
    if (of.mass) return format('mass', of.mass)
    return of.volume ? format('volume', of.volume) : 'amount not known'
  }
  function format(kind: Kind, si: number): string {
    return formatIn(kind, si, units.value)
  }

  /** What a square metre costs, by the area that the person reckons in. */
  const price = (amount: number, currency: string): string => pricePerArea(amount, currency, units.value)

  /** Whether they lead a day: override gates, close it, have the hand-over signed. */
  const mayLead = mayEdit

  return {
    me,
    codeWanted,
    mayLead,
    asked,
    units,
    clock,
    reads,
    mayEdit,
    seesPrices,
    mayKeep,
    ask,
    signIn,
    signOut,
    setReading,
    amount,
    format,
    price,
  }
})
