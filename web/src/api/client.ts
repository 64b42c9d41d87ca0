import createClient, { type Middleware } from 'openapi-fetch'
import { askedAhead, forgetAhead } from '@/ahead'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Problem = Schemas['Problem']

/** Called when the server says that nobody is signed in. */
let whenSignedOut: () => unknown = () => undefined
export function onSignedOut(call: () => unknown) {
  whenSignedOut = call
}
export const signedOut = () => {
  whenSignedOut()
}

const unreachable: Problem = {
  status: 0,
  text: 'The server does not answer. Nothing is lost; what you do is tried again.',
}

/** A dead network becomes a problem like any other, and so does an answer that is none of ours. */
const problems: Middleware = {
  onError: () => Response.json(unreachable, { status: 503 }),
  async onResponse({ response, schemaPath }) {
    if (response.status === 401 && schemaPath !== '/session') whenSignedOut()
    if (response.ok || response.headers.get('content-type')?.includes('json')) return undefined
    const text = `The server answers ${String(response.status)}. Try again in a moment.`
    await response.body?.cancel()
    return Response.json({ status: response.status, text }, { status: response.status })
  },
}

/** An answer, which may be on its way already. */
async function answerTo(request: Request): Promise<Response> {
  if (request.method === 'GET') return (await askedAhead(request)?.catch(() => undefined)) ?? fetch(request)
  const response = await fetch(request)
  forgetAhead()
  return response
}

/** Reads an answer to its end, so that one that breaks off on the way is told as a server that does not answer. */
async function whole(request: Request): Promise<Response> {
  const { status, statusText, headers, body } = await answerTo(request)
  const read = body && (await new Response(body).arrayBuffer())
  // An answer that has no content may not even have an empty one.
  return new Response(read?.byteLength ? read : null, { status, statusText, headers })
}

export const api = createClient<paths>({ baseUrl: '/api', fetch: whole })
api.use(problems)

/** A file as the body of a question. A form goes out as it is: the contract's type of it knows no files. */
export function asForm(file: File) {
  const form = new FormData()
  form.append('file', file)
  return { body: { file: '' }, bodySerializer: () => form }
}
