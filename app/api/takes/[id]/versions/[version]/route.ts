import { handle, mustBeOnBench, readJson } from '../../../../../../src/server/http/handle';
import { services } from '../../../../../../src/server/services';

interface Context {
  params: Promise<{ id: string; version: string }>;
}

/** Gives a version another name or recipe, `{name?, recipe?}`. */
export function PATCH(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('version');
    const { id, version } = await params;
    return services().takes.changeVersion(id, version, await readJson(request));
  });
}

/** Deletes a version that is not the only one. */
export function DELETE(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('version');
    const { id, version } = await params;
    await services().takes.removeVersion(id, version);
    return {};
  });
}
