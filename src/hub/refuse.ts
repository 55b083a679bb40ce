import type { ProblemCode } from '../protocol/problem';

/** Says why something was refused: its kind, the field, and a sentence. */
export type Refuse = (code: ProblemCode, field: string, message: string) => void;
