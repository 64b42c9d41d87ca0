/** The names of the control characters (ISO/IEC 646), by their code. */
const names =
  'NUL SOH STX ETX EOT ENQ ACK BEL BS HT LF VT FF CR SO SI DLE DC1 DC2 DC3 DC4 NAK SYN ETB CAN EM SUB ESC FS GS RS US'.split(
    ' ',
  )
const del = 0x7f

/** Control characters by their names, such as ‹GS›, so that they can be seen. */
export function visible(text: string): string {
  return text.replace(/[\u0000-\u001f\u007f]/g, (c) => `‹${names[c.charCodeAt(0)] ?? 'DEL'}›`)
}

/** What was typed with names of control characters, or with \x1d for one, as it is meant. */
export function meant(shown: string): string {
  return shown
    .replace(/‹([A-Z0-4]{2,3})›/g, (all, name: string) => {
      const code = name === 'DEL' ? del : names.indexOf(name)
      return code < 0 ? all : String.fromCharCode(code)
    })
    .replace(/\\x([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
}

/** The control characters that codes are asked to hold. */
export const controls = [
  { char: '\u001d', name: 'group separator' },
  { char: '\u001e', name: 'record separator' },
  { char: '\u0004', name: 'end of transmission' },
  { char: '\u001c', name: 'file separator' },
  { char: '\u001f', name: 'unit separator' },
  { char: '\u0002', name: 'start of text' },
  { char: '\u0003', name: 'end of text' },
  { char: '\t', name: 'tabulator' },
  { char: '\r', name: 'carriage return' },
  { char: '\n', name: 'line feed' },
  { char: '\u001b', name: 'escape' },
] as const
