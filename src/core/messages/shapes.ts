import type { LinkKind } from '../rig/linkKind';

/**
 * What a field of a document may hold, as plain data: `protocol/rig/shapes` makes the schema of it that checks documents. A
 * field is required unless it is `optional`.
 */
export type Shape = { optional?: true } & (
  | { is: 'number'; least: number; most: number; whole: boolean; /** The field beside it that it must not be below. */ notBelow?: string }
  | { is: 'choice'; of: readonly (string | number | null)[] }
  | { is: 'yesOrNo' }
  | { is: 'text'; most: number; pattern?: { expression: RegExp; words: string } }
  /** An IP address, of version 4 or 6. */
  | { is: 'ip' }
  /** The id of something of the rig; null: of something that is kept elsewhere. */
  | { is: 'id'; of: LinkKind | null }
  | { is: 'pair'; of: Shape }
  | { is: 'list'; of: Shape; least: number; most: number; unique: boolean; /** The list beside it that has as many. */ asLongAs?: string; /** What refers to something that goes leaves the list alone; otherwise the list goes with it. */ loses?: true }
  | { is: 'object'; fields: Fields }
  /** An object, or something that is none. */
  | { is: 'objectOr'; object: Shape; other: Shape }
  /** A word, or something that is none. */
  | { is: 'wordOr'; of: readonly string[]; other: Shape }
  /** One of two objects, told apart by whether a field is there. */
  | { is: 'having'; field: string; then: Shape; otherwise: Shape }
  /** Depends on what stands in a field beside it. */
  | { is: 'by'; field: string; value: string | number; then: Shape; otherwise: Shape }
  /** Objects told apart by the word in one of their fields. */
  | { is: 'tagged'; tag: string; cases: Record<string, Fields> }
);

export type Fields = Readonly<Record<string, Shape>>;

export const optional = (shape: Shape): Shape => ({ ...shape, optional: true });
export const whole = (least: number, most: number): Shape => ({ is: 'number', least, most, whole: true });
export const number = (least: number, most: number): Shape => ({ is: 'number', least, most, whole: false });
export const choice = (...of: readonly (string | number | null)[]): Shape => ({ is: 'choice', of });
export const pair = (of: Shape): Shape => ({ is: 'pair', of });
export const object = (fields: Fields): Shape => ({ is: 'object', fields });
export const list = (of: Shape, least: number, most: number, unique = false): Shape => ({ is: 'list', of, least, most, unique });
/** A list of things that each stand for themselves: one that refers to something that goes leaves it alone. */
export const loose = (of: Shape, most: number): Shape => ({ is: 'list', of, least: 0, most, unique: false, loses: true });
/** A fixed number, or the signal that gives it. */
export const amount = (fixed: Shape): Shape => ({ is: 'objectOr', object: object({ signal: { is: 'id', of: 'signal' } }), other: fixed });

export const yesOrNo: Shape = { is: 'yesOrNo' };
export const finite = number(-1e9, 1e9);
export const channel = whole(1, 16);
export const sevenBit = whole(0, 127);
export const fourteenBit = whole(0, 16383);
export const milliseconds = number(0, 3_600_000);
