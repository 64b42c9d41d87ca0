import { computed, ref, shallowRef } from 'vue'

export interface Cell {
  row: number
  column: number
}

/** A sheet of values that is written by keys: where one stands, what is chosen, what is undone. Rows are never changed in place. */
export function useGrid(fields: () => readonly string[]) {
  const rows = shallowRef<readonly (readonly string[])[]>([])
  const at = ref<Cell>({ row: 0, column: 0 })
  /** The other corner of what is chosen. */
  const to = ref<Cell>({ row: 0, column: 0 })
  const past: (typeof rows.value)[] = []
  const future: (typeof rows.value)[] = []
  const undoable = ref(0)
  const redoable = ref(0)

  const range = computed(() => ({
    top: Math.min(at.value.row, to.value.row),
    bottom: Math.max(at.value.row, to.value.row),
    left: Math.min(at.value.column, to.value.column),
    right: Math.max(at.value.column, to.value.column),
  }))
  const blank = () => fields().map(() => '')
  const value = (row: number, column: number) => rows.value[row]?.[column] ?? ''

  function become(next: typeof rows.value) {
    past.push(rows.value)
    future.length = 0
    rows.value = next
    count()
  }
  function count() {
    undoable.value = past.length
    redoable.value = future.length
  }
  function step(from: (typeof rows.value)[], back: (typeof rows.value)[]) {
    const next = from.pop()
    if (!next) return
    back.push(rows.value)
    rows.value = next
    count()
  }

  /** Writes a block of values with its first at a place; rows that are not there yet are added. */
  function write(block: readonly (readonly string[])[], from: Cell) {
    const next = rows.value.map((r) => [...r])
    block.forEach((values, y) => {
      while (next.length <= from.row + y) next.push(blank())
      const row = next[from.row + y]
      values.forEach((v, x) => {
        if (row && from.column + x < row.length) row[from.column + x] = v
      })
    })
    become(next)
  }
  function move(rowBy: number, columnBy: number, choosing = false) {
    const from = choosing ? to.value : at.value
    const next = {
      row: Math.min(Math.max(from.row + rowBy, 0), rows.value.length),
      column: Math.min(Math.max(from.column + columnBy, 0), fields().length - 1),
    }
    to.value = next
    if (!choosing) at.value = next
  }
  /** Goes on to the next field, and from the last one to the first of the next record. */
  function next() {
    const last = at.value.column === fields().length - 1
    at.value = last ? { row: at.value.row + 1, column: 0 } : { ...at.value, column: at.value.column + 1 }
    to.value = at.value
  }
  function chosen(): string[][] {
    const { top, bottom, left, right } = range.value
    return Array.from({ length: bottom - top + 1 }, (_, y) =>
      Array.from({ length: right - left + 1 }, (_, x) => value(top + y, left + x)),
    )
  }
  return {
    rows,
    at,
    to,
    range,
    undoable,
    redoable,
    value,
    move,
    next,
    chosen,
    write,
    go: (row: number, column: number, choosing = false) => {
      to.value = { row, column }
      if (!choosing) at.value = { row, column }
    },
    clear: () => {
      const { top, left } = range.value
      write(
        chosen().map((r) => r.map(() => '')),
        { row: top, column: left },
      )
    },
    /** What stands in the first row of what is chosen goes into all of it. */
    fillDown: () => {
      const { top, left } = range.value
      const block = chosen()
      write(
        block.map(() => block[0] ?? []),
        { row: top, column: left },
      )
    },
    removeRows: () => {
      const { top, bottom } = range.value
      become(rows.value.filter((_, i) => i < top || i > bottom))
      to.value = at.value = { row: Math.min(top, rows.value.length), column: at.value.column }
    },
    undo: () => step(past, future),
    redo: () => step(future, past),
    begin: (records: string[][]) => {
      rows.value = records
      past.length = future.length = 0
      count()
    },
    /** Columns are added and taken away with their values. */
    addColumn: () => become(rows.value.map((r) => [...r, ''])),
    removeColumn: (column: number) => become(rows.value.map((r) => r.filter((_, i) => i !== column))),
  }
}
