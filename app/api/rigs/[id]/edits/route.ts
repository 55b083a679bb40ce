import type { RigEdit } from '../../../../../src/core/rig/edit';
import { editRequestSchema } from '../../../../../src/protocol/rig';
import { handle, readBody } from '../../../../../src/server/http/handle';
import type { EditOrigin } from '../../../../../src/server/rigDesk';
import { services } from '../../../../../src/server/services';

/** Applies one edit to a rig, `{edit, window, number, basedOn}`, and answers with it and how the rig stands then. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => {
    const { edit, ...from } = await readBody<{ edit: RigEdit } & EditOrigin>(request, editRequestSchema);
    return services().desk.edit((await params).id, edit, from);
  });
}
