import { mustBe } from '../../../../../../../src/protocol/check';
import { fileSchema } from '../../../../../../../src/protocol/takesSchema';
import { binary } from '../../../../../../../src/server/http/handle';
import { services } from '../../../../../../../src/server/services';

interface Context {
  params: Promise<{ id: string; version: string }>;
}

/** A version as a file, `?as=midi|midi0|csv|jsonl|take` and `&line=` for one mapping alone. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return binary(request, async () => {
    const { id, version } = await params;
    const { as, line = null } = mustBe(fileSchema, Object.fromEntries(new URL(request.url).searchParams));
    return services().takes.file(id, version, as, line);
  });
}
