import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { fileURLToPath } from 'node:url'

/** Builds once what every worker starts. */
export default async function setup() {
  const project = fileURLToPath(new URL('..', import.meta.url))
  const build = spawn('script/setup', { cwd: project, stdio: ['ignore', 'ignore', 'inherit'] })
  const [code] = (await once(build, 'exit')) as [number]
  if (code !== 0) throw new Error(`script/setup ended with ${String(code)}`)
}
