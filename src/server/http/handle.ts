import type Joi from 'joi';
import { mustBe } from '../../protocol/check';
import { LIMITS } from '../../protocol/limits';
import { ProblemError, type ProblemCode } from '../../protocol/problem';
import { services } from '../services';
import { troubleOf, type Trouble } from '../storage/trouble';

const STATUS_OF: Record<ProblemCode, number> = {
  'malformed-frame': 400,
  'malformed-json': 400,
  invalid: 400,
  'unknown-signal': 404,
  'not-finite': 400,
  'not-found': 404,
  'too-large': 413,
  locked: 423,
  conflict: 409,
  forbidden: 403,
  'too-many': 429,
  unavailable: 503,
  internal: 500,
};

/** Why something was not kept, and what to do. */
const NOT_KEPT: Record<Trouble, { status: number; because: (folder: string) => string }> = {
  full: { status: 507, because: (folder) => `The disk of ${folder} is full, so this could not be kept and was taken back: free some space there and do it again.` },
  held: { status: 503, because: (folder) => `Another program has the database in ${folder} to itself, so this could not be kept and was taken back: end what it does there and do it again.` },
  unwritable: { status: 503, because: (folder) => `The database in ${folder} cannot be written to, so this could not be kept and was taken back: look whether that disk is still there and may be written to, and do it again.` },
};

/** Runs a route handler; a problem becomes `{problem: {code, field, message}}` with its status, and a line in the log. */
export async function handle(request: Request, work: () => Promise<unknown>): Promise<Response> {
  try {
    if (request.method !== 'GET') mustComeFromHere(request);
    return Response.json(await work());
  } catch (error) {
    return problemResponse(request, error);
  }
}

/** Runs a route handler that answers bytes; `name` makes a file of them that is saved. Problems as in `handle`. */
export async function binary(request: Request, work: () => Promise<{ bytes: Uint8Array; name?: string; type?: string }>): Promise<Response> {
  try {
    const { bytes, name, type = 'application/octet-stream' } = await work();
    return new Response(bytes as Uint8Array<ArrayBuffer>, {
      headers: {
        'content-type': type,
        'cache-control': 'no-store',
        ...(name !== undefined && { 'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}` }),
      },
    });
  } catch (error) {
    return problemResponse(request, error);
  }
}

/** The JSON body of a request, checked. Throws a `ProblemError` that names the field. */
export async function readBody<T>(request: Request, schema: Joi.Schema<T>, mostBytes?: number): Promise<T> {
  return mustBe(schema, await readJson(request, mostBytes));
}

/** The JSON body of a request, not checked yet. */
export async function readJson(request: Request, mostBytes?: number): Promise<unknown> {
  const text = await readText(request, mostBytes);
  try {
    return JSON.parse(text);
  } catch {
    throw new ProblemError('malformed-json', 'body', 'The body must be JSON.');
  }
}

/**
 * The body as text. Too much is read to its end all the same, unkept, so that the sender gets the answer and not a broken
 * line; far too much is not.
 */
export async function readText(request: Request, mostBytes: number = LIMITS.bodyBytes): Promise<string> {
  return new TextDecoder().decode(await readBytes(request, mostBytes));
}

/** The same as bytes. */
export async function readBytes(request: Request, mostBytes: number): Promise<Uint8Array> {
  const reader = request.body?.getReader();
  if (!reader) throw new ProblemError('malformed-json', 'body', 'The body is empty; it must be JSON.');
  const pieces: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.byteLength;
    if (size <= mostBytes) pieces.push(value);
    else pieces.length = 0;
    if (size > LIMITS.readOnFactor * mostBytes) {
      await reader.cancel();
      break;
    }
  }
  if (size > mostBytes) throw new ProblemError('too-large', 'body', `The body is larger than ${inWords(mostBytes)}.`);
  return Buffer.concat(pieces);
}

function inWords(bytes: number): string {
  return bytes >= 1024 * 1024 ? `${bytes / 1024 / 1024} MB` : `${bytes / 1024} kB`;
}

/** For what is not part of the rig, and must not change on Stage all the same. */
export function mustBeOnBench(field: string): void {
  if (services().desk.current.stage) throw new ProblemError('locked', field, 'Pumice is on Stage, where nothing can be changed: go back to the Bench first.');
}

function mustComeFromHere(request: Request): void {
  // The Host header was checked at the door.
  const origin = request.headers.get('origin');
  if (origin !== null && origin.replace(/^https?:\/\//, '') !== request.headers.get('host')) {
    throw new ProblemError('forbidden', 'origin', 'This request comes from a page that is not Pumice.');
  }
}

function problemResponse(request: Request, error: unknown): Response {
  const { log } = services();
  const { pathname } = new URL(request.url);
  if (ProblemError.is(error)) {
    log.warn({ code: error.code, field: error.field, path: pathname }, error.message);
    const problems = error.problems.length > 0 ? { problems: error.problems } : {};
    return Response.json({ problem: error.toProblem(), ...problems }, { status: STATUS_OF[error.code] });
  }
  log.error({ err: error, path: pathname }, 'a request failed');
  const { dataFolder } = services().environment;
  const trouble = troubleOf(error, dataFolder);
  if (trouble) {
    const { status, because } = NOT_KEPT[trouble];
    const notKept = new ProblemError('unavailable', '', `${because(dataFolder)} What was saved before is safe.`);
    return Response.json({ problem: notKept.toProblem() }, { status });
  }
  const problem = new ProblemError('internal', '', 'Something went wrong inside Pumice; the log says more.').toProblem();
  return Response.json({ problem }, { status: 500 });
}
