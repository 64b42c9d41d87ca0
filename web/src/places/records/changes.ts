import type { Schemas } from '@/api/client'
import { count } from '@/shared/format'

/** What is different between two readings, in a line. */
export function changesInWords(c: Schemas['RecordChanges']) {
  const parts = [
    c.new && `${count(c.new)} new`,
    c.gone && `${count(c.gone)} gone`,
    c.changed && `${count(c.changed)} changed`,
    c.newFields?.length && `new fields ${c.newFields.join(', ')}`,
    c.goneFields?.length && `no more ${c.goneFields.join(', ')}`,
    c.moved && 'another order',
  ].filter((p): p is string => !!p)
  return parts.length ? parts.join(' · ') : 'nothing had changed'
}
