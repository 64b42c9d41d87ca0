import { crc32 } from 'node:zlib'

/** A zip file whose parts are stored as they are: what workbooks come in. */
export function zip(parts: Record<string, string>): Buffer {
  const bodies: Buffer[] = []
  const index: Buffer[] = []
  let at = 0
  for (const [name, text] of Object.entries(parts)) {
    const [path, body] = [Buffer.from(name), Buffer.from(text)]
    const facts = Buffer.alloc(26)
    facts.writeUInt16LE(20, 0)
    facts.writeUInt32LE(crc32(body), 10)
    facts.writeUInt32LE(body.length, 14)
    facts.writeUInt32LE(body.length, 18)
    facts.writeUInt16LE(path.length, 22)
    const local = Buffer.concat([Buffer.from('PK\x03\x04'), facts, path, body])
    const rest = Buffer.alloc(14)
    rest.writeUInt32LE(at, 10)
    index.push(Buffer.from('PK\x01\x02\x14\x00'), facts, rest, path)
    bodies.push(local)
    at += local.length
  }
  const middle = Buffer.concat(index)
  const end = Buffer.alloc(18)
  const count = Object.keys(parts).length
  end.writeUInt16LE(count, 4)
  end.writeUInt16LE(count, 6)
  end.writeUInt32LE(middle.length, 8)
  end.writeUInt32LE(at, 12)
  return Buffer.concat([...bodies, middle, Buffer.from('PK\x05\x06'), end])
}

const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'

/** An XLSX workbook of sheets of texts and numbers; one number format for all of the numbers. */
export function workbook(sheets: Record<string, (string | number)[][]>, form = '00000'): Buffer {
  const names = Object.keys(sheets)
  const cell = (value: string | number) =>
    typeof value === 'number' ? `<c s="1"><v>${String(value)}</v></c>` : `<c t="inlineStr"><is><t>${value}</t></is></c>`
  const parts: Record<string, string> = {
    'xl/workbook.xml': `<workbook xmlns="${main}" xmlns:r="${office}"><sheets>${names.map((n, i) => `<sheet name="${n}" sheetId="${String(i + 1)}" r:id="r${String(i)}"/>`).join('')}</sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${names.map((_, i) => `<Relationship Id="r${String(i)}" Type="${office}/worksheet" Target="worksheets/s${String(i)}.xml"/>`).join('')}</Relationships>`,
    'xl/styles.xml': `<styleSheet xmlns="${main}"><numFmts count="1"><numFmt numFmtId="170" formatCode="${form}"/></numFmts><cellXfs><xf numFmtId="0"/><xf numFmtId="170"/></cellXfs></styleSheet>`,
  }
  names.forEach((name, i) => {
    const rows = sheets[name]?.map((row) => `<row>${row.map(cell).join('')}</row>`).join('') ?? ''
    parts[`xl/worksheets/s${String(i)}.xml`] = `<worksheet xmlns="${main}"><sheetData>${rows}</sheetData></worksheet>`
  })
  return zip(parts)
}
