import { services } from '../../../src/server/services';
import { monitorStream } from '../../../src/server/monitorStream';

export const dynamic = 'force-dynamic';

/** What enters and leaves, a JSON line each, until the reader goes. This computer only: the server listens nowhere else. */
export function GET(request: Request): Response {
  return new Response(monitorStream(services().link, request.signal), {
    headers: { 'content-type': 'application/x-ndjson; charset=utf-8', 'cache-control': 'no-store' },
  });
}
