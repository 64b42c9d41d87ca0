/** Address of the drawing of a symbol, as a reference pack has it. */
export function drawingOf(id: string, reference?: string) {
  const named = reference && !id.startsWith('own-') ? `${id}@${reference}` : id
  return `/api/symbols/${encodeURIComponent(named)}/drawing`
}

export const ruleSets = [
  { value: 'clp', label: 'CLP (European Union)' },
  { value: 'ghs', label: 'GHS (United Nations)' },
  { value: 'hazcom', label: 'HazCom (United States)' },
]
export const languages = [
  { value: 'en', label: 'English' },
  { value: 'de', label: 'German' },
  { value: 'fr', label: 'French' },
  { value: 'es', label: 'Spanish' },
  { value: 'it', label: 'Italian' },
  { value: 'nl', label: 'Dutch' },
  { value: 'pl', label: 'Polish' },
  { value: 'pt', label: 'Portuguese' },
]
export const signalWords = [
  { value: '', label: 'none' },
  { value: 'danger', label: 'DANGER' },
  { value: 'warning', label: 'WARNING' },
  { value: 'caution', label: 'CAUTION' },
  { value: 'notice', label: 'NOTICE' },
  { value: 'safety', label: 'SAFETY INSTRUCTIONS' },
]
