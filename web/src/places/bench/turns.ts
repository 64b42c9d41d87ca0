import type { Schemas } from '@/api/client'

export type Turn = NonNullable<Schemas['Carry']['turn']>

/** How the artwork can lie on the web. */
export const turns: { value: Turn; label: string }[] = [
  { value: 0, label: 'Reads across the web' },
  { value: 90, label: 'Reads along the feed' },
  { value: 180, label: 'Across, upside down' },
  { value: 270, label: 'Along, upside down' },
]
