import { LIMITS } from '../../../src/protocol/limits';
import { handle, readJson } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The rigs that there are, the one saved last first: `[{id, name, revision, savedAtMs}]`. */
export function GET(request: Request): Promise<Response> {
  return handle(request, () => services().desk.list());
}

/** Takes a rig document in and answers `{id, name, revision}`; every problem of a bad one is in `problems`. */
export function POST(request: Request): Promise<Response> {
  return handle(request, async () => {
    const { id, document, revision } = await services().desk.take(await readJson(request, LIMITS.rigBodyBytes));
    return { id, name: document.name, revision };
  });
}
