import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** The mappings that are others in the open rig than in the one that the take began with. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => {
    const { takes, desk } = services();
    return takes.changes((await params).id, desk.current.document);
  });
}
