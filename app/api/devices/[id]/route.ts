import { deviceChangeSchema } from '../../../../src/protocol/devicesSchema';
import { handle, mustBeOnBench, readBody } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

type Context = { params: Promise<{ id: string }> };

/** Gives a joined device another name or another surface, `{name?, surface?}`. */
export function PATCH(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('id');
    const { devices } = services();
    await devices.change((await params).id, await readBody(request, deviceChangeSchema));
    return { devices: devices.devices };
  });
}

/** Drops a device: it is out at once. */
export function DELETE(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('id');
    const { devices } = services();
    await devices.drop((await params).id);
    return { devices: devices.devices };
  });
}
