import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** Takes the last edit back; answers with the rig as it is then. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => services().desk.step((await params).id, 'undo'));
}
