import { ProblemError } from '../../../../../src/protocol/problem';
import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** Recalls a scene of the open rig, as soon as the hub is there to play it. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => {
    const { id } = await params;
    const { desk, link } = services();
    const scene = desk.current.document.scenes.find((candidate) => candidate.id === id);
    if (!scene) throw new ProblemError('not-found', 'id', `There is no scene "${id}" in this rig.`);
    if (!(await link.surely({ kind: 'recall', scene: id }))) throw new ProblemError('unavailable', 'id', `“${scene.name}” was not recalled: what plays the rig is away; try again in a moment.`);
    return { id, name: scene.name };
  });
}
