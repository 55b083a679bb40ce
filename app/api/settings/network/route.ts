import { handle, readJson } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The settings of network MIDI, as `NetworkSettings`. */
export function GET(request: Request): Promise<Response> {
  return handle(request, async () => services().networkMidi.settings);
}

/** Sets all of them. */
export function PUT(request: Request): Promise<Response> {
  return handle(request, async () => services().networkMidi.set(await readJson(request)));
}
