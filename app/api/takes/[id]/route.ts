import { handle, mustBeOnBench, readJson } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

interface Context {
  params: Promise<{ id: string }>;
}

/** A take, its versions, and how far one that is being rendered is. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => services().takes.detail((await params).id));
}

/** Gives it another name or other marks, `{name?, marks?}`. */
export function PATCH(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('take');
    return services().takes.change((await params).id, await readJson(request));
  });
}

/** Deletes it with all its versions. */
export function DELETE(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => {
    mustBeOnBench('take');
    await services().takes.remove((await params).id);
    return {};
  });
}
