import { LIMITS } from '../../../src/protocol/limits';
import { handle, readText } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

/** Takes a file of recorded signals in, `?name=` and its text as the body; answers what it holds and its bad lines. */
export function POST(request: Request): Promise<Response> {
  return handle(request, async () => {
    const name = (new URL(request.url).searchParams.get('name') ?? '').trim().slice(0, LIMITS.nameLength) || 'Recording';
    return services().inputs.takeRecording(name, await readText(request, LIMITS.recordingBytes));
  });
}
