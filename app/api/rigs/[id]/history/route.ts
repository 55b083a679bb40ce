import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The latest edits of the open rig, newest first: `[{number, madeAtMs, words, takenBack}]`. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().desk.steps);
}
