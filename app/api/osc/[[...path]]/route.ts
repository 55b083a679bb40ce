import { handle } from '../../../../src/server/http/handle';
import { oscDescription } from '../../../../src/server/oscDescription';
import { ProblemError } from '../../../../src/protocol/problem';
import { services } from '../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** Pumice's own OSC addresses and what they take, in the style of the OSCQuery proposal; a path gives one branch of it. */
export function GET(request: Request, { params }: { params: Promise<{ path?: string[] }> }): Promise<Response> {
  return handle(request, async () => {
    const { desk, inputs } = services();
    const path = `/${((await params).path ?? []).join('/')}`;
    if (new URL(request.url).searchParams.has('HOST_INFO')) {
      return { NAME: 'Pumice', OSC_IP: '127.0.0.1', OSC_PORT: inputs.settings.oscPorts[0], OSC_TRANSPORT: 'UDP', EXTENSIONS: { ACCESS: true, VALUE: true, RANGE: true, DESCRIPTION: true } };
    }
    const node = oscDescription(desk.current.document, desk.lastValues, path);
    if (!node) throw new ProblemError('not-found', 'path', `There is no OSC address "${path}" in this rig.`);
    return node;
  });
}
