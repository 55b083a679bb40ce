import { ProblemError } from '../../../../../src/protocol/problem';
import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

/** Recalls a scene of the open rig. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => {
    const { id } = await params;
    const { desk, link } = services();
    const scene = desk.current.document.scenes.find((candidate) => candidate.id === id);
    if (!scene) throw new ProblemError('not-found', 'id', `There is no scene "${id}" in this rig.`);
    if (!link.connected) throw new ProblemError('unavailable', 'id', 'The hub is not there; it will be back in a moment.');
    link.send({ kind: 'recall', scene: id });
    return { id, name: scene.name };
  });
}
