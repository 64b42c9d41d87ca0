import { fieldOf, type Piece, textOf } from '@/api/documents'

/** One element string: its identifier, and the pieces of its value. */
export interface Row {
  ai: string
  value: Piece[]
}

/** Takes what an element says apart at its bracketed identifiers; what stands before the first is left. */
export function rowsOf(pieces: readonly Piece[], known: ReadonlySet<string>): Row[] {
  const rows: Row[] = []
  const add = (piece: Piece) => rows.at(-1)?.value.push(piece)
  for (const piece of pieces) {
    if (fieldOf(piece) !== undefined) {
      add(piece)
      continue
    }
    let from = 0
    const text = textOf(piece) ?? ''
    for (const match of text.matchAll(/\((\d{2,4})\)/g)) {
      if (!known.has(match[1] ?? '')) continue
      if (match.index > from) add({ text: text.slice(from, match.index) })
      rows.push({ ai: match[1] ?? '', value: [] })
      from = match.index + match[0].length
    }
    if (from < text.length) add({ text: text.slice(from) })
  }
  return rows
}

/** What an element says that is made of rows; texts beside one another become one piece. */
export function piecesOf(rows: readonly Row[]): Piece[] {
  const pieces: Piece[] = []
  for (const row of rows) {
    for (const piece of [{ text: `(${row.ai})` }, ...row.value]) {
      const last = pieces.at(-1)
      const [before, text] = [last && textOf(last), textOf(piece)]
      if (before !== undefined && text !== undefined) pieces[pieces.length - 1] = { text: before + text }
      else pieces.push(piece)
    }
  }
  return pieces
}
