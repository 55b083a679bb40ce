import { LIMITS } from '../../../src/protocol/limits';
import type { LibraryContent } from '../../../src/protocol/library';
import { keepSchema } from '../../../src/protocol/library';
import { handle, readBody } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

/** What is kept apart from any rig. */
export function GET(request: Request): Promise<Response> {
  return handle(request, () => services().library.list());
}

/** Keeps a shaping or a kit, `{kind, name, shaping | kit}`. */
export function POST(request: Request): Promise<Response> {
  return handle(request, async () => services().library.keep(await readBody<{ name: string } & LibraryContent>(request, keepSchema, LIMITS.rigBodyBytes)));
}
