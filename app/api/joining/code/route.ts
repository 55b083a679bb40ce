import { codeSchema } from '../../../../src/protocol/devicesSchema';
import { ProblemError } from '../../../../src/protocol/problem';
import { handle, mustBeOnBench, readBody } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

/** A new code, for devices that are to get a surface, `{surface, admits}`; null for their motion sensors alone. It lets one device in, or as many as `admits` says. */
export function POST(request: Request): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('surface');
    const { surface, admits } = await readBody(request, codeSchema);
    const { devices } = services();
    if (!devices.lan) throw new ProblemError('invalid', 'surface', 'Nothing can join while Pumice listens on this computer alone: let it be reached from the network first.');
    return devices.makeCode(surface, admits);
  });
}
