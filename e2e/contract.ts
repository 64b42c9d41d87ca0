import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { BrowserContext, Response } from '@playwright/test'
import { Ajv, type ValidateFunction } from 'ajv'
import addFormats from 'ajv-formats'
import { parse } from 'yaml'

interface Described {
  $ref?: string
  content?: Record<string, { schema?: object }>
}
interface Contract {
  paths: Record<string, Record<string, { responses?: Record<string, Described> }>>
}

const contract = parse(readFileSync(fileURLToPath(new URL('../api/openapi.yaml', import.meta.url)), 'utf8')) as Contract

const ajv = new Ajv({ strict: false, allErrors: false })
addFormats.default(ajv)
ajv.addSchema(contract, 'contract')

/** The contract's paths as patterns; the one with the fewest parameters is meant where several match. */
const paths = Object.keys(contract.paths)
  .map((path) => ({ path, parameters: path.split('{').length, pattern: new RegExp(`^/api${path.replaceAll(/\{[^}]+\}/g, '[^/]+')}$`) }))
  .sort((a, b) => a.parameters - b.parameters)

const escaped = (key: string) => encodeURIComponent(key.replaceAll('~', '~0').replaceAll('/', '~1'))
const compiled = new Map<string, ValidateFunction>()

function validator(pointer: string) {
  const known = compiled.get(pointer) ?? ajv.compile({ $ref: pointer })
  compiled.set(pointer, known)
  return known
}

/** What is wrong with an answer beside the contract, or nothing. */
export function untrue(method: string, path: string, status: number, body: unknown): string | undefined {
  const said = `${method} ${path}, ${String(status)}`
  const found = paths.find(({ pattern }) => pattern.test(path))
  if (!found) return `${said}: the contract has no such path`
  const operation = contract.paths[found.path]?.[method.toLowerCase()]
  if (!operation?.responses) return status === 405 ? undefined : `${said}: the contract has no such operation`
  const code = operation.responses[String(status)] ? String(status) : 'default'
  const described = operation.responses[code]
  if (!described) return `${said}: the contract has no such status`
  const at = described.$ref ? `contract${described.$ref}` : `contract#/paths/${escaped(found.path)}/${method.toLowerCase()}/responses/${code}`
  if (!described.$ref && !described.content?.['application/json']?.schema) return `${said}: the contract has no JSON for it`
  const valid = validator(`${at}/content/application~1json/schema`)
  return valid(body) ? undefined : `${said}: ${ajv.errorsText(valid.errors, { dataVar: 'answer' })}`
}

/** Holds every JSON answer that the pages of a browser get against the contract; what it returns tells which were untrue, once each. */
export function heldTo(context: BrowserContext) {
  const reading = new Set<Promise<void>>()
  const faults = new Set<string>()
  const hold = async (response: Response) => {
    // A body that its page no longer wants, since it went elsewhere, is nobody's answer.
    const body = await response.body().catch(() => undefined)
    if (!body) return
    const fault = untrue(response.request().method(), new URL(response.url()).pathname, response.status(), JSON.parse(body.toString()))
    if (fault) faults.add(fault)
  }
  context.on('response', (response) => {
    if (!new URL(response.url()).pathname.startsWith('/api/') || !response.headers()['content-type']?.startsWith('application/json')) return
    const read = hold(response).finally(() => reading.delete(read))
    reading.add(read)
  })
  return async () => {
    await Promise.all(reading)
    const said = [...faults]
    faults.clear()
    return said
  }
}
