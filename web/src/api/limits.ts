/**
 * How long what is typed into a design may be, as docs/design.schema.json has it: fields take no more, so that a
 * draft can always be kept. e2e/tests/plain.spec.ts holds these to the schema.
 */
export const limits = {
  length: 10_000_000, // micrometres
  text: 10_000,
  formula: 5000,
  changeWith: 500,
  group: 60,
  host: 200,
  question: { name: 60, words: 200, default: 500, least: 40, most: 40, pattern: 300 },
  language: 40,
  translation: 5000,
} as const
