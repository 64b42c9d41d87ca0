// Opens designs in the built module and tells of each label what it is and a digest of its dots. The Go test gives
// the job as JSON on standard input and holds the answer against the core it is built of itself.
import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import { performance } from 'node:perf_hooks'

const job = JSON.parse(readFileSync(0, 'utf8'))
await import(job.exec)
const go = new globalThis.Go()
const ready = new Promise((resolve) => (globalThis.oddcoreReady = resolve))
const { instance } = await WebAssembly.instantiate(readFileSync(job.wasm), go.importObject)
void go.run(instance)
await ready
const core = globalThis.oddcore
core.typefaces(JSON.stringify(job.typefaces))
const paths = new Map(job.typefaces.map((t) => [t.hash, t.path]))

/** Calls, and brings the font files that are needed first. */
function call(name, ...args) {
  for (;;) {
    const answer = core[name](...args)
    if (!answer?.absent) return answer
    core.typeface(answer.absent, readFileSync(paths.get(answer.absent)))
  }
}

const answer = job.designs.map(({ document, fields, records }) => {
  const opened = call('open', document, JSON.stringify(fields))
  if (opened.error) return { error: opened.error }
  const hand = call('hand', document, JSON.stringify(fields), JSON.stringify(records[0]))
  if (hand.error) return { error: hand.error }
  const labels = records.map((values, i) => {
    const drawn = call('draw', i + 1, JSON.stringify(values))
    const bare = call('dots', JSON.stringify(values))
    if (Buffer.compare(bare.dots, drawn.dots) !== 0) return { dots: 'other dots than those that were judged' }
    const beside = i === 0 ? hand : call('beside', JSON.stringify(values))
    if (Buffer.compare(beside.dots, drawn.dots) !== 0) return { dots: 'other dots than those that a hand moves' }
    return { label: JSON.parse(drawn.label), dots: createHash('sha256').update(drawn.dots).digest('hex') }
  })
  const times = []
  for (let i = 0; i < (job.rounds ?? 0); i++) {
    const begun = performance.now()
    call('open', document, JSON.stringify(fields))
    const opened = performance.now()
    call('draw', 1, JSON.stringify(records[0]))
    times.push([opened - begun, performance.now() - opened])
  }
  return { about: JSON.parse(opened.about), labels, times }
})
writeFileSync(1, JSON.stringify(answer))
process.exit(0)
