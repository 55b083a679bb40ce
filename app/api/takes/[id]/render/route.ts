import { handle, mustBeOnBench, readBody } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';
import { renderSchema } from '../../../../../src/protocol/takesSchema';

interface Context {
  params: Promise<{ id: string }>;
}

/**
 * Renders a take again through the rig that is open, or another that is stored; with `only`, of that rig these mappings alone.
 * Answers at once; `GET` of the take says how far it is.
 */
export function POST(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('take');
    const { takes, desk } = services();
    const { rig, name, only } = await readBody(request, renderSchema);
    const { document } = rig === undefined ? desk.current : await desk.find(rig);
    const { id } = await params;
    const through = JSON.stringify(await takes.throughRig(id, document, only));
    await takes.mustBeFree(id);
    void takes.render(id, name ?? `Through ${document.name}`, through);
    return takes.detail(id);
  });
}

/** Stops a rendering. */
export function DELETE(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    services().takes.stopRendering((await params).id);
    return {};
  });
}
