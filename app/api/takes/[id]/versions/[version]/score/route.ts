import { binary } from '../../../../../../../src/server/http/handle';
import { services } from '../../../../../../../src/server/services';

interface Context {
  params: Promise<{ id: string; version: string }>;
}

/** The messages of a version as they lie in the database (`core/takes/score`), each piece with its length before it; gzip. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return binary(request, async () => {
    const { id, version } = await params;
    return { bytes: await services().takes.score(id, version) };
  });
}
