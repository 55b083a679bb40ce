import { ProblemError } from '../../../../src/protocol/problem';
import { handle } from '../../../../src/server/http/handle';
import { playedSurface } from '../../../../src/server/playedSurface';

export const dynamic = 'force-dynamic';

/** One surface of the open rig, with what a page needs to play it. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => {
    const { id } = await params;
    const played = playedSurface(id);
    if (!played) throw new ProblemError('not-found', 'id', `There is no surface "${id}" in the open rig.`);
    return played;
  });
}
