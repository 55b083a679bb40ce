import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** The mappings that are others in the open rig, or in the stored one that `rig` names, than in the one that the take began with. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => {
    const { takes, desk } = services();
    const rig = new URL(request.url).searchParams.get('rig');
    return takes.changes((await params).id, (rig === null ? desk.current : await desk.find(rig)).document);
  });
}
