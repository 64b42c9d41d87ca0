import { computed, type ComputedRef } from 'vue'
import { api } from '@/api/client'
import { useAsked } from '@/shared/useAsked'

/** The rules of check characters, to be chosen from. */
export function useCheckRules(): ComputedRef<{ value: string; label: string }[]> {
  const { data } = useAsked((signal) => api.GET('/check-rules', { signal }))
  return computed(() => (data.value ?? []).map((rule) => ({ value: rule.name, label: rule.words })))
}
