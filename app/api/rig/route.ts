import { handle } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The open rig: `{id, document, revision, savedAtMs, stage}`. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().desk.current);
}
