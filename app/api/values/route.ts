import { handle } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The last value of every signal of the open rig that was ever moved, by id. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().desk.lastValues);
}
