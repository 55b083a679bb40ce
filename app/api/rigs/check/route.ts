import { LIMITS } from '../../../../src/protocol/limits';
import { handle, readJson } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';
import { previewRig } from '../../../../src/server/previewRig';

/** Says what a rig document holds without taking it in; every problem of a bad one is in `problems`. */
export function POST(request: Request): Promise<Response> {
  return handle(request, async () => previewRig(await readJson(request, LIMITS.rigBodyBytes), services().checkRig));
}
