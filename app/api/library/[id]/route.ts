import { handle } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

type Context = { params: Promise<{ id: string }> };

export function GET(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => services().library.find((await params).id));
}

/** Deletes it and answers with what it was. */
export function DELETE(request: Request, { params }: Context): Promise<Response> {
  return handle(request, async () => services().library.remove((await params).id));
}
