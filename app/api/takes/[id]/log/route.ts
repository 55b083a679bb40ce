import { binary } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** A take's log: `{startMs, rig}` of its beginning as JSON, then its pieces, each with its length before it; gzip. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return binary(request, async () => ({ bytes: await services().takes.log((await params).id) }));
}
