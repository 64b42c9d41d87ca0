// Writes src/api/bounds.ts: how large and how long what is typed may be, as the contract and the form of a design have
// it, so that fields take no more and no page has figures of its own.
import { readFileSync, writeFileSync } from 'node:fs'
import { parse } from 'yaml'

const read = (name) => readFileSync(new URL(name, import.meta.url), 'utf8')
const bounds = { design: {}, request: {} }

/** Notes the bounds of a part of a schema in a list, by the name of its type and the path within it. */
function note(list, part, type, path) {
  if (part === null || typeof part !== 'object') return
  const is = {}
  // 0 says nothing where a least value that counts is given
  const least = part['x-least'] ?? part.minimum
  if (typeof least === 'number') is.min = least
  if (typeof part.maximum === 'number') is.max = part.maximum
  if (typeof part.maxLength === 'number') is.maxlength = part.maxLength
  if (Object.keys(is).length > 0) (list[type] ??= {})[path || 'value'] = is
  for (const [name, inner] of Object.entries(part.properties ?? {}))
    note(list, inner, type, path ? `${path}.${name}` : name)
  note(list, part.items, type, path)
  note(list, part.additionalProperties, type, path)
  for (const one of ['oneOf', 'anyOf', 'allOf'].flatMap((kind) => part[kind] ?? []))
    note(list, one, type, path)
}

const design = JSON.parse(read('../docs/design.schema.json'))
note(bounds.design, { ...design, $defs: undefined }, 'Design', '')
for (const [name, part] of Object.entries(design.$defs)) note(bounds.design, part, name, '')
for (const [name, part] of Object.entries(parse(read('../api/openapi.yaml')).components.schemas))
  note(bounds.request, part, name, '')
writeFileSync(
  new URL('src/api/bounds.ts', import.meta.url),
  `/* Generated from api/openapi.yaml and docs/design.schema.json by npm run api. */\nexport const designBounds = ${JSON.stringify(bounds.design, null, 2)} as const\n\nexport const requestBounds = ${JSON.stringify(bounds.request, null, 2)} as const\n`,
)
