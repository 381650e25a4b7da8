import { computed } from 'vue'
import type { School, Schools } from '../../api/client'
import type { Field } from '../../fields/grid'
import { useSession } from '../../session/session'
import { marginWords } from '../job/margins'
import type { useHouseEdits } from './useHouseEdits'

const PLAIN_CREW = { spreaders: 2, pace: { value: 0.0125, source: 'rule-of-thumb' } } as const
const PLAIN_BUCKET = { volume: 0.02, headroom: 0.2 }

/** What new jobs start from, as fields, and how questions on which practice differs are answered. */
export function useHouseFields({ house, change }: ReturnType<typeof useHouseEdits>) {
  const session = useSession()
  function chosen(s: School): string {
    const own = house.value.methods?.[s.id as keyof Schools]
    return typeof own === 'string' ? own : (s.choices[0]?.value ?? '')
  }
  function choose(s: School, value: string): void {
    const methods = { ...house.value.methods, [s.id]: value === s.choices[0]?.value ? undefined : value }
    change({ methods: methods as Schools })
  }

  const crewNow = computed(() => house.value.crew ?? PLAIN_CREW)
  const bucket = computed(() => house.value.bucket ?? PLAIN_BUCKET)
  const crew = computed<Field[]>(() => [
    {
      as: 'number',
      label: 'People spreading',
      value: crewNow.value.spreaders,
      whole: true,
      least: 1,
      most: 50,
      take: (n) => n && change({ crew: { ...crewNow.value, spreaders: n } }),
    },
    {
      as: 'quantity',
      kind: 'pace',
      label: 'Pace of one person',
      value: crewNow.value.pace.value,
      positive: true,
      take: (value) => change({ crew: { ...crewNow.value, pace: { value, source: 'own-test' } } }),
    },
    {
      as: 'quantity',
      kind: 'volume',
      label: 'Bucket, to the brim',
      value: bucket.value.volume,
      positive: true,
      take: (volume) => change({ bucket: { ...bucket.value, volume } }),
    },
  ])
  const limits = computed<Field[]>(() => [
    {
      as: 'quantity',
      kind: 'content',
      label: 'VOC limit',
      told: house.value.vocMax ? '0 = no limit' : 'none',
      value: house.value.vocMax?.value,
      take: (value) => change({ vocMax: value > 0 ? { value, source: 'standard' } : undefined }),
    },
    {
      as: 'quantity',
      kind: 'temperature',
      label: 'Planned slab temperature',
      told: house.value.slab ? '' : '20 °C, assumed',
      value: house.value.slab?.value,
      take: (value) => change({ slab: { value, source: 'own-test' } }),
    },
    {
      as: 'pick',
      label: 'Films ready even on a slab',
      value: house.value.margin ? String(house.value.margin) : undefined,
      options: marginWords(session.units),
      none: 'as planned',
      told: 'margin for the next coat',
      take: (v) => change({ margin: v ? Number(v) : undefined }),
    },
  ])
  const money = computed<Field[]>(() => [
    {
      as: 'name',
      label: 'Time zone',
      told: "As IANA names it; this device's when left out",
      value: house.value.zone,
      take: (v) => change({ zone: v || undefined }),
    },
    {
      as: 'name',
      label: 'Currency, three letters',
      value: house.value.currency,
      take: (v) => change({ currency: v.toUpperCase() || undefined }),
    },
    {
      as: 'number',
      label: 'Cost of a person-hour',
      value: house.value.hourCost,
      least: 0,
      most: 10_000,
      take: (n) => change({ hourCost: n }),
    },
    {
      as: 'quantity',
      kind: 'fraction',
      label: 'Overtime surcharge',
      told: house.value.overtimeMore === undefined ? 'half, common practice' : '',
      value: house.value.overtimeMore,
      take: (n) => change({ overtimeMore: n }),
    },
  ])
  const kept = (by: Partial<NonNullable<typeof house.value.store>>): void =>
    change({ store: { ...house.value.store, ...by } })
  const degrees = (label: string, key: 'heated' | 'cooled'): Field => {
    const value = house.value.store?.[key]
    return {
      as: 'sourced',
      kind: 'temperature',
      label,
      value: value === undefined ? undefined : { value, source: 'own-test' },
      from: 'own-test',
      take: (v) => kept({ [key]: v?.value }),
    }
  }
  const room = computed<Field[]>(() => [
    degrees('Store room heated to at least', 'heated'),
    degrees('Store room cooled to at most', 'cooled'),
    {
      as: 'number',
      label: 'Latitude of the store room, °',
      told: 'for its forecast',
      value: house.value.store?.latitude,
      least: -90,
      most: 90,
      optional: true,
      take: (n) => kept({ latitude: n }),
    },
    {
      as: 'number',
      label: 'Longitude of the store room, °',
      value: house.value.store?.longitude,
      least: -180,
      most: 180,
      optional: true,
      take: (n) => kept({ longitude: n }),
    },
  ])
  return { crew, limits, money, room, chosen, choose }
}
