import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** Takes the last edit back; answers with the edit that did it and how the rig stands then. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => services().desk.step((await params).id, 'undo'));
}
