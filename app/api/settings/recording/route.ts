import { handle, readJson } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** How takes are begun and ended, as `RecordSettings`. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().recording.settings);
}

/** Sets all of them. */
export function PUT(request: Request): Promise<Response> {
  return handle(request, async () => services().recording.set(await readJson(request)));
}
