import type { RigEdit } from '../../../../../src/core/rig/edit';
import { editRequestSchema } from '../../../../../src/protocol/rig';
import { handle, readBody } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** Applies one edit to a rig, `{edit}`, and answers with the rig as it is then. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => {
    const { edit } = await readBody<{ edit: RigEdit }>(request, editRequestSchema);
    return services().desk.edit((await params).id, edit);
  });
}
