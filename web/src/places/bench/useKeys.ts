import { useEventListener } from '@vueuse/core'

/** What the keys of the Bench do, as told by `?` too. */
export const keys = [
  ['← → ↑ ↓', 'walk the strip; with an element chosen, move it by a millimetre'],
  ['Shift + arrow', 'move the chosen element by one dot'],
  ['Page Up, Page Down', 'walk the strip'],
  ['A, then T C L B E P S', 'add text, a bar code, a line, a box, an ellipse, a picture, a symbol'],
  ['A, then H G I D', 'lay out a chemical label, a safety sign, a pipe marker, a diamond of ratings'],
  ['Shift + click', 'choose several elements together'],
  ['Ctrl A', 'choose all'],
  ['Delete', 'delete what is chosen'],
  ['Ctrl D', 'duplicate it'],
  ['Ctrl C, Ctrl X, Ctrl V', 'copy, cut, paste: in this design, another, or another tab; pictures too'],
  ['Ctrl + drag', 'place without snapping to lines'],
  ['Shift + drag of a corner', 'keep the proportions, as pictures do by themselves'],
  ['Alt + drag of a handle', 'resize from the middle; of a picture, cut a part off'],
  ['Esc', 'choose nothing'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['Ctrl K', 'find anything'],
  ['?', 'these keys'],
] as const

export interface KeyActions {
  arrow: (dx: number, dy: number, fine: boolean) => void
  walk: (by: number) => void
  add: (letter: string) => boolean
  openAdd: () => void
  remove: () => void
  duplicate: () => void
  unchoose: () => void
  all: () => void
  undo: () => void
  redo: () => void
  help: () => void
}

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

export function useKeys(actions: KeyActions) {
  let adding = false
  const arrows: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  }

  /** Returns whether the key was meant for us. */
  function plain(event: KeyboardEvent): boolean {
    if (adding) {
      adding = false
      if (actions.add(event.key.toLowerCase())) return true
    }
    const arrow = arrows[event.key]
    if (arrow) {
      const target = event.target as HTMLElement
      if (target.closest('[role="menu"], [role="radiogroup"], .n-base-selection')) return false
      actions.arrow(arrow[0], arrow[1], event.shiftKey)
      return true
    }
    switch (event.key) {
      case 'PageUp':
        actions.walk(-1)
        return true
      case 'PageDown':
        actions.walk(1)
        return true
      case 'Delete':
      case 'Backspace':
        actions.remove()
        return true
      case 'Escape':
        actions.unchoose()
        return false
      case 'a':
      case 'A':
        adding = true
        actions.openAdd()
        return true
      case '?':
        actions.help()
        return true
    }
    return false
  }

  function withControl(event: KeyboardEvent): boolean {
    switch (event.key.toLowerCase()) {
      case 'z':
        if (event.shiftKey) actions.redo()
        else actions.undo()
        return true
      case 'y':
        actions.redo()
        return true
      case 'a':
        actions.all()
        return true
      case 'd':
        actions.duplicate()
        return true
    }
    return false
  }

  useEventListener('keydown', (event) => {
    if (typing(event.target) || event.altKey) return
    if (event.ctrlKey || event.metaKey ? withControl(event) : plain(event)) event.preventDefault()
  })
}
