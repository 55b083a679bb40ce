import type Joi from 'joi';
import { LIMITS } from './limits';
import { ProblemError, type Problem } from './problem';

export type Checked<T> = { ok: true; value: T } | { ok: false; problems: Problem[] };

/**
 * Runs a schema over something untrusted and gives back its problems, each with its path: all of them, up to as many as are
 * listed.
 * @param at where in a larger document it stands, such as `mappings[3]`
 */
export function check<T>(schema: Joi.Schema<T>, input: unknown, at = '', abortEarly = false): Checked<T> {
  const { error, value } = schema.validate(input, { abortEarly, convert: false, errors: { wrap: { label: false } } });
  if (!error) return { ok: true, value: value as T };
  const problems = error.details.slice(0, LIMITS.problems).map(({ path, message, context }): Problem => {
    const field = path.reduce<string>((text, part) => (typeof part === 'number' ? `${text}[${part}]` : text ? `${text}.${part}` : part), at);
    const label = String(context?.label ?? '');
    // What is wrong is said of its place in the whole.
    const sentence = at !== '' && message.startsWith(label) ? `${field}${message.slice(label.length)}` : message;
    return { code: 'invalid', field, message: `${sentence}${found(context?.value)}` };
  });
  return { ok: false, problems };
}

/** As `check`, throwing all problems as one `ProblemError` that names the first field. */
export function mustBe<T>(schema: Joi.Schema<T>, input: unknown): T {
  const checked = check(schema, input);
  if (checked.ok) return checked.value;
  throw problemOf(checked.problems);
}

/** All problems as one error that names the first field and says every sentence. */
export function problemOf(problems: readonly Problem[]): ProblemError {
  const [first] = problems;
  return new ProblemError(first!.code, first!.field, problems.map(({ message }) => message).join('; '), problems);
}

function found(value: unknown): string {
  if (value === undefined || typeof value === 'object') return '';
  const text = String(value);
  return `, found ${typeof value === 'string' ? `"${text.slice(0, 40)}${text.length > 40 ? '…' : ''}"` : text.slice(0, 40)}`;
}
