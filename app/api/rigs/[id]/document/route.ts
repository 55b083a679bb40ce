import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The document of a rig, as it went in and was edited since. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => (await services().desk.find((await params).id)).document);
}
