import type { Design, Element, Piece, Printer, Stock } from './design'
import type { Schemas } from './client'

export type { Design, Element, Piece, Printer, Stock }

// The contract leaves documents open, since they have a schema of their own, from which the types
// here are made. The server checks every document against it.
export const asDesign = (document: Schemas['Document']) => document as unknown as Design
export const asDocument = (design: Design) => design as unknown as Schemas['Document']
export const asStock = (about: Schemas['About']) => about as unknown as Stock
export const asPrinter = (about: Schemas['About']) => about as unknown as Printer

export const fieldOf = (piece: Piece) => ('field' in piece ? piece.field : undefined)
export const textOf = (piece: Piece) => ('text' in piece ? piece.text : undefined)
