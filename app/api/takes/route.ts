import { handle } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

export const dynamic = 'force-dynamic';

/** All takes, the latest first. */
export function GET(request: Request): Promise<Response> {
  return handle(request, () => services().takes.list());
}
