import { handle, mustBeOnBench, readJson } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The profiles of those who sing and drum here, as `ListeningProfiles`. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().listening.profiles());
}

/** Keeps all of them; not on Stage. */
export function PUT(request: Request): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('profiles');
    return services().listening.set(await readJson(request));
  });
}
