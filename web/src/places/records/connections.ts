import type { Schemas } from '@/api/client'

export type Kind = Schemas['ConnectionKind']

export const kinds: { value: Kind; label: string }[] = [
  { value: 'postgresql', label: 'PostgreSQL' },
  { value: 'mysql', label: 'MySQL or MariaDB' },
  { value: 'sqlserver', label: 'SQL Server' },
  { value: 'sqlite', label: 'a SQLite file' },
  { value: 'files', label: 'a folder of files' },
  { value: 'desk', label: 'an order desk' },
]

/** Databases that are asked over the network, with the ports they usually have. */
export const usualPorts: Partial<Record<Kind, number>> = { postgresql: 5432, mysql: 3306, sqlserver: 1433 }

export const rereadings = [
  { value: '0', label: 'when asked' },
  { value: 'run', label: 'when asked, and before every run' },
  { value: '5', label: 'every 5 minutes' },
  { value: '15', label: 'every 15 minutes' },
  { value: '60', label: 'every hour' },
  { value: '1440', label: 'every day' },
]

/** How often records are read again, as one choice. */
export const toRereading = (choice: string, key: string[]): Schemas['Rereading'] => ({
  key,
  everyMinutes: Number(choice) || 0,
  beforeRun: choice === 'run',
})
export const ofRereading = (r: Schemas['Rereading']) => (r.beforeRun ? 'run' : String(r.everyMinutes))

/** What is read, in words. */
export function requestWords({ table, schema, text, desk }: Schemas['SourceRequest']): string {
  if (desk?.kind === 'items') return desk.words ? `items with “${desk.words}”` : 'all items'
  if (desk) return `${desk.kind === 'order' ? 'order' : 'goods-received note'} ${desk.number ?? ''}`
  if (table) return schema ? `${schema}.${table}` : table
  return text ? 'a question' : ''
}
