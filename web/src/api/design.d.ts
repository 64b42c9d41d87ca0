/* Generated from docs/design.schema.json by npm run api. */

/**
 * Whole micrometres.
 */
export type Length = number;
export type Turn = 0 | 90 | 180 | 270;
/**
 * One part of what an element says.
 */
export type Piece =
  | {
      text: string;
    }
  | {
      field: string;
    };
export type Points = number;
export type Align = "" | "left" | "centre" | "right";

/**
 * A label design with its stock and printer. All lengths are whole micrometres.
 */
export interface Design {
  format: "oddspool.design/1";
  name: string;
  stock: Stock;
  printer: Printer;
  /**
   * How the artwork lies on the web, in degrees clockwise as it leaves the printer.
   */
  turn?: 0 | 90 | 180 | 270;
  /**
   * @maxItems 500
   */
  fields?: string[];
  /**
   * @maxItems 500
   */
  elements: Element[];
}
export interface Stock {
  number?: string;
  name: string;
  kind: "die-cut";
  material?: string;
  shape: "rectangle" | "rounded";
  cornerRadius?: Length;
  width: Length;
  length: Length;
  gap: Length;
  edgeLeft?: Length;
  edgeRight?: Length;
  perRoll?: number;
}
export interface Printer {
  name: string;
  resolution: string;
  headDots: number;
  maxLength?: Length;
  /**
   * mm/s at most.
   */
  speed?: number;
}
export interface Element {
  id: string;
  kind: "text" | "code" | "line" | "box";
  x: Length;
  y: Length;
  /**
   * Whole micrometres.
   */
  width: number;
  /**
   * Whole micrometres.
   */
  height: number;
  turn?: Turn;
  locked?: boolean;
  /**
   * @maxItems 100
   */
  says?: Piece[];
  ifEmpty?: "" | "leave out";
  text?: TextLooks;
  code?: CodeLooks;
  /**
   * Whole micrometres.
   */
  weight?: number;
}
export interface TextLooks {
  typeface: string;
  bold?: boolean;
  italic?: boolean;
  points: Points;
  shrinkTo?: number;
  align?: Align;
  stand?: "" | "top" | "middle" | "bottom";
  wrap?: boolean;
  /**
   * Per cent of the typeface's own line spacing.
   */
  spacing?: number;
}
export interface CodeLooks {
  symbology: "code128";
  /**
   * Whole micrometres.
   */
  module: number;
  align?: Align;
  readable?: "" | "below" | "above" | "none";
  typeface?: string;
  points?: number;
}
