import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { fileURLToPath } from 'node:url'

/** Starts the demonstration with data of its own, and tells the tests where it is. */
export default async function setup() {
  const project = fileURLToPath(new URL('..', import.meta.url))
  const demo = spawn('script/demo', ['--fresh', '--fast', '--port', '18080'], {
    cwd: project,
    env: { ...process.env, ODDSPOOL_DATA: `${project}.data/e2e` },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  const address = await new Promise<string>((resolve, reject) => {
    let said = ''
    demo.stdout.on('data', (data: Buffer) => {
      said += data.toString()
      const found = /Odd Spool is at (\S+)\//.exec(said)
      const printer = /Dock 2 prints at \S+ its own page is (\S+)\//.exec(said)
      if (!found?.[1] || !printer?.[1]) return
      process.env.DEVICE = printer[1]
      resolve(found[1])
    })
    demo.once('exit', (code) => {
      reject(new Error(`script/demo ended with ${String(code)}: ${said}`))
    })
  })
  process.env.BASE = address
  return async () => {
    demo.kill('SIGTERM')
    await once(demo, 'exit')
  }
}
