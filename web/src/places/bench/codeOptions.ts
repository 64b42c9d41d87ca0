import type { Schemas } from '@/api/client'
import type { Element } from '@/api/documents'

type Code = NonNullable<Element['code']>
type Option = Schemas['CodeOption']

/** What is chosen of an option; undefined where nothing is. */
export const chosen = (code: Code, option: Pick<Option, 'id'>) => code[option.id as keyof Code] as unknown

/** What a design has of an option, where a field of the sheet says value: nothing chosen is no member at all. */
export function toDesign(option: Option, value: string | number | boolean | null): Partial<Code> {
  const member = option.kind === 'percent' && value !== null ? String(value) : value
  return { [option.id]: member || undefined }
}
