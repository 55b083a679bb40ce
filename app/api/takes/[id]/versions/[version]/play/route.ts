import { handle, readJson } from '../../../../../../../src/server/http/handle';
import { services } from '../../../../../../../src/server/services';

interface Context {
  params: Promise<{ id: string; version: string }>;
}

/** Plays a version to its outputs, `{fromMs?, speed?, loop?, muted?, output?}`; what else plays ends. */
export function POST(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    const { id, version } = await params;
    await services().takes.play(id, version, await readJson(request));
    return {};
  });
}
