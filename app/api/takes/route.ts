import { LIMITS } from '../../../src/protocol/limits';
import { handle, mustBeOnBench, readBytes } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

export const dynamic = 'force-dynamic';

/** All takes, the latest first. */
export function GET(request: Request): Promise<Response> {
  return handle(request, () => services().takes.list());
}

/** Takes a file in as a take, `?name=` and its bytes as the body: a MIDI file, recorded signals, or a whole take. */
export function POST(request: Request): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('take');
    const { takes, desk } = services();
    const { id, document } = desk.current;
    return takes.takeIn(new URL(request.url).searchParams.get('name') ?? '', await readBytes(request, LIMITS.takeFileBytes), { id, document });
  });
}
