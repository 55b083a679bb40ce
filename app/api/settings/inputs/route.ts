import { handle, readJson } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The settings of this computer's inputs, as `InputSettings`. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().inputs.settings);
}

/** Sets all of them. */
export function PUT(request: Request): Promise<Response> {
  return handle(request, async () => services().inputs.set(await readJson(request)));
}
