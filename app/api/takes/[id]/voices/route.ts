import { handle, mustBeOnBench, readBody } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';
import { voicesSchema } from '../../../../../src/protocol/takesSchema';

/** Makes a take of the notes of this one, played as voices of a stream of the open rig, `{stream}`. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('take');
    const { takes, desk } = services();
    const { stream } = await readBody(request, voicesSchema);
    const { id, document } = desk.current;
    return takes.throughVoices((await params).id, stream, { id, document });
  });
}
