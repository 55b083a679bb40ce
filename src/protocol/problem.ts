/** What went wrong with something that came in: which field, and one sentence that says what to do. */
export interface Problem {
  code: ProblemCode;
  field: string;
  message: string;
}

export type ProblemCode =
  | 'malformed-frame'
  | 'malformed-json'
  | 'invalid'
  | 'unknown-signal'
  | 'not-finite'
  | 'not-found'
  | 'too-large'
  | 'locked'
  /** Somebody else changed the same a moment ago. */
  | 'conflict'
  | 'forbidden'
  | 'too-many'
  | 'unavailable'
  | 'internal';

const PROBLEM_ERROR = 'ProblemError';

/** Thrown inside a request to end it with a problem; carries nothing that a stranger must not see. */
export class ProblemError extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly field: string,
    message: string,
    /** Where there are several: all of them. */
    readonly problems: readonly Problem[] = [],
  ) {
    super(message);
    this.name = PROBLEM_ERROR;
  }

  /** By name, for the server and the pages are built apart and each has a class of its own. */
  static is(error: unknown): error is ProblemError {
    return error instanceof Error && error.name === PROBLEM_ERROR;
  }

  toProblem(): Problem {
    return { code: this.code, field: this.field, message: this.message };
  }
}
