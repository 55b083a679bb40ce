import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** Plays this rig from now on. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => services().desk.switchTo((await params).id));
}
