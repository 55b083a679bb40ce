import { handle, mustBeOnBench, readJson } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** How hands before a camera are understood here, as `HandsProfile`. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().hands.settings);
}

/** Keeps all of it; not on Stage. */
export function PUT(request: Request): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('poses');
    return services().hands.set(await readJson(request));
  });
}
