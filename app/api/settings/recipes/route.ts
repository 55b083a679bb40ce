import { handle, readJson } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The recipes that are kept to tidy takes. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().recipes.settings);
}

/** Sets all of them. */
export function PUT(request: Request): Promise<Response> {
  return handle(request, async () => services().recipes.set(await readJson(request)));
}
