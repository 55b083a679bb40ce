import type { Joining } from '../../../src/protocol/devices';
import { lanSchema } from '../../../src/protocol/devicesSchema';
import { handle, mustBeOnBench, readBody } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

export const dynamic = 'force-dynamic';

/** How devices may join, and which have. */
export function GET(request: Request): Promise<Response> {
  return handle(request, () => Promise.resolve(joining()));
}

/** Switches the network on or off, `{on}`. */
export function PUT(request: Request): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('on');
    await services().devices.setLan((await readBody(request, lanSchema)).on);
    return joining();
  });
}

function joining(): Joining {
  const { devices, environment, network } = services();
  return { lan: devices.lan, https: environment.https, port: environment.port, ...network(), code: devices.code, devices: devices.devices };
}
