import { handle } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

/** Deletes a rig that is not open; answers its document, so that it can be taken in again. */
export function DELETE(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => (await services().desk.remove((await params).id)).document);
}
