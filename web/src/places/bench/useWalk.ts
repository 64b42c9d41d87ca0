import { useRouteQuery } from './useRouteQuery'
import { computed, type Ref, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'

export type Mode = 'order' | 'extremes' | 'findings'
export type Zoom = 'fit' | 'true' | 'sheet'

/**
 * Which labels lie on the strip, in which order, and which is in hand. Kept in the address, so that
 * it can be come back to.
 */
export function useWalk(total: Ref<number>, proof: Readonly<Ref<Schemas['Proof'] | undefined>>) {
  const record = useRouteQuery<string>('record', '1')
  const mode = useRouteQuery<Mode>('strip', 'order')
  const zoom = useRouteQuery<Zoom>('zoom', 'fit')
  const sheetMost = ref(40)
  const room = ref(2) // labels on the strip, from the one in hand on

  const order = computed<readonly number[]>(() => {
    if (mode.value === 'extremes') return proof.value?.extremes.map((e) => e.record) ?? []
    if (mode.value === 'findings') return proof.value?.knots.map((k) => k.record) ?? []
    return Array.from({ length: total.value }, (_, i) => i + 1)
  })
  const inHand = computed(() => Number(record.value) || 1)
  const at = computed({
    get: () => Math.max(order.value.indexOf(inHand.value), 0),
    set: (place) => {
      const next = order.value[Math.min(Math.max(place, 0), order.value.length - 1)]
      if (next !== undefined) record.value = String(next)
    },
  })
  /** A record that is not on the strip brings the whole batch back. */
  function goTo(wanted: number) {
    if (!order.value.includes(wanted)) mode.value = 'order'
    record.value = String(Math.min(Math.max(wanted, 1), Math.max(total.value, 1)))
  }
  watch([mode, order], () => {
    const first = order.value[0]
    if (first !== undefined && !order.value.includes(inHand.value)) record.value = String(first)
  })

  const sheetFrom = computed(() => Math.floor(at.value / sheetMost.value) * sheetMost.value)
  const shown = computed(() => {
    const near =
      zoom.value === 'sheet'
        ? order.value.slice(sheetFrom.value, sheetFrom.value + sheetMost.value)
        : order.value.slice(Math.max(at.value - 1, 0), at.value + Math.min(room.value, 60))
    // The label in hand comes first: its values lie in the tray.
    return [inHand.value, ...near.filter((n) => n !== inHand.value)]
  })
  const notes = computed(
    () =>
      new Map(mode.value === 'extremes' ? (proof.value?.extremes ?? []).map((e) => [e.record, e.why]) : []),
  )
  return {
    mode,
    zoom,
    order,
    at,
    inHand,
    shown,
    notes,
    sheetFrom,
    sheetMost,
    room,
    goTo,
    step: (by: number) => (at.value += by),
  }
}
