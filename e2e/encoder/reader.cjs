// A reader of tags made with another's library of the protocol (LLRP 1.0.1): what the client of the server says is decoded, and what it hears is
// encoded, by nothing of ours. `node reader.cjs WAY` prints its port, and ends with its client. WAY is how it reports, for readers differ there:
// "each" a message a tag, then the end; "asked" nothing until it is asked; "endless" neither tells an end nor can be asked to.
const { LLRPCore, LLRPServer } = require("llrpjs")

const way = process.argv[2]
const chip = (n) => ({
  epc: Buffer.alloc(12),
  tid: Buffer.from([0xe2, 0x80, 0x11, 0x05, 0x20, 0, 0, 0, 0, 0, 0, n]),
  user: Buffer.alloc(8),
  access: 0,
  locked: new Set(),
})
const chips = Array.from({ length: Number(process.argv[3] ?? 1) }, (_, i) => chip(i))
let tellsEnd = false
let spec = null
let held = []

const ok = { LLRPStatus: { StatusCode: "M_Success", ErrorDescription: "" } }
const refused = { LLRPStatus: { StatusCode: "M_UnsupportedMessage", ErrorDescription: "not by this one" } }
const list = (x) => (x === undefined ? [] : Array.isArray(x) ? x : [x])
const hex = (text) => Buffer.from(text, "hex")

function does(op, chip) {
  const read = (name, data) => ({ [name]: data })
  const knows = op.data.AccessPassword === chip.access
  const id = op.data.OpSpecID
  if (op.kind === "C1G2Read") {
    const bank = { 1: Buffer.concat([Buffer.from([0, 0, chip.epc.length << 2, 0]), chip.epc]), 2: chip.tid, 3: chip.user }[op.data.MB]
    const data = bank?.subarray(2 * op.data.WordPointer, 2 * (op.data.WordPointer + op.data.WordCount))
    const short = !data || data.length < 2 * op.data.WordCount
    const words = []
    for (let i = 0; !short && i < data.length; i += 2) words.push(data.readUInt16BE(i))
    return read("C1G2ReadOpSpecResult", { Result: short ? "Nonspecific_Tag_Error" : "Success", OpSpecID: id, ReadData: words })
  }
  if (op.kind === "C1G2Write") {
    const data = hex(op.data.WriteData)
    let result = "Success"
    if (chip.locked.has(["", "EPC_Memory", "TID_Memory", "User_Memory"][op.data.MB]) && !knows) result = "Tag_Memory_Locked_Error"
    else if (op.data.MB === 1 && op.data.WordPointer === 1) chip.epc = data.subarray(2, 2 + 2 * (data[0] >> 3))
    else if (op.data.MB === 3 && 2 * op.data.WordPointer + data.length <= chip.user.length) data.copy(chip.user, 2 * op.data.WordPointer)
    else if (op.data.MB === 0 && op.data.WordPointer === 2) chip.access = data.readUInt32BE(0)
    else result = "Tag_Memory_Overrun_Error"
    return read("C1G2WriteOpSpecResult", { Result: result, OpSpecID: id, NumWordsWritten: result === "Success" ? data.length / 2 : 0 })
  }
  if (knows) for (const p of list(op.data.C1G2LockPayload)) chip.locked.add(p.DataField)
  return read("C1G2LockOpSpecResult", { Result: knows ? "Success" : "Nonspecific_Reader_Error", OpSpecID: id })
}

function look() {
  return chips.map((chip) => {
    const report = {
      EPC_96: chip.epc.length === 12 ? { EPC: [...chip.epc] } : undefined,
      EPCData: chip.epc.length === 12 ? undefined : { EPC: [...chip.epc] },
      ROSpecID: { ROSpecID: 1 },
      AntennaID: { AntennaID: 1 },
      PeakRSSI: { PeakRSSI: -48 },
      LastSeenTimestampUTC: { Microseconds: new Date() },
      TagSeenCount: { TagCount: 3 },
      C1G2_PC: { PC_Bits: chip.epc.length << 10 },
    }
    for (const name of Object.keys(report)) if (report[name] === undefined) delete report[name]
    if (spec?.on) {
      const target = list(spec.C1G2TagSpec.C1G2TargetTag)[0]
      const data = hex(target.TagData)
      if (target.Pointer === 32 && target.MB === 1 && data.equals(chip.epc)) {
        report.AccessSpecID = { AccessSpecID: spec.id }
        for (const kind of ["C1G2Read", "C1G2Write", "C1G2Lock"])
          for (const data of list(spec[kind])) Object.assign(report, does({ kind, data }, chip))
      }
    }
    return report
  })
}

const reader = new LLRPServer({ host: "127.0.0.1", port: 0 })
const answer = (name, m, data) => reader.send(new LLRPCore[name]({ id: m.getMessageId(), data }))
const notify = (data) => reader.send(new LLRPCore.READER_EVENT_NOTIFICATION({ id: 0, data: { ReaderEventNotificationData: { UTCTimestamp: { Microseconds: new Date() }, ...data } } }))
const report = (tags) => reader.send(new LLRPCore.RO_ACCESS_REPORT({ id: 0, data: tags.length ? { TagReportData: tags } : {} }))
reader.on("connection", () => notify({ ConnectionAttemptEvent: { Status: "Success" } }))
reader.on("disconnect", () => process.exit(0))
reader.on("error", (e) => {
  console.error(e.message) // a message that this library does not take, as a question of LLRP 1.1
  reader.send(new LLRPCore.ERROR_MESSAGE({ id: 0, data: refused }))
})
for (const name of ["DELETE_ROSPEC", "ADD_ROSPEC", "ENABLE_ROSPEC", "DELETE_ACCESSSPEC"])
  reader.on(name, async (m) => {
    if (name === "DELETE_ACCESSSPEC") spec = null
    await answer(`${name}_RESPONSE`, m, ok)
  })
reader.on("SET_READER_CONFIG", async (m) => {
  if (way === "endless") return answer("SET_READER_CONFIG_RESPONSE", m, refused)
  for (const s of list(m.getReaderEventNotificationSpec().getEventNotificationState()))
    if (s.getEventType() === "ROSpec_Event") tellsEnd = Boolean(s.getNotificationState())
  await answer("SET_READER_CONFIG_RESPONSE", m, ok)
})
reader.on("ADD_ACCESSSPEC", async (m) => {
  const data = m.toLLRPData().data.AccessSpec
  spec = { ...data.AccessCommand, id: data.AccessSpecID, on: false }
  await answer("ADD_ACCESSSPEC_RESPONSE", m, ok)
})
reader.on("ENABLE_ACCESSSPEC", async (m) => {
  spec.on = true
  await answer("ENABLE_ACCESSSPEC_RESPONSE", m, ok)
})
reader.on("START_ROSPEC", async (m) => {
  await answer("START_ROSPEC_RESPONSE", m, ok)
  if (tellsEnd) await notify({ ROSpecEvent: { EventType: "Start_Of_ROSpec", ROSpecID: 1, PreemptingROSpecID: 0 } })
  const seen = look()
  if (way === "asked") held.push(...seen)
  else if (way === "endless") {
    if (seen.length) await report(seen)
  } else for (const tag of seen) await report([tag])
  if (tellsEnd) await notify({ ROSpecEvent: { EventType: "End_Of_ROSpec", ROSpecID: 1, PreemptingROSpecID: 0 } })
})
reader.on("GET_REPORT", async () => {
  if (way === "asked") await report(held.splice(0))
})
reader.on("GET_ROSPECS", (m) => answer("GET_ROSPECS_RESPONSE", m, ok))
reader.on("CLOSE_CONNECTION", (m) => answer("CLOSE_CONNECTION_RESPONSE", m, ok))
reader._server.on("listening", () => console.log(reader._server.address().port))
reader.listen()
