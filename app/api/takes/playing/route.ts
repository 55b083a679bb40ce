import { handle } from '../../../../src/server/http/handle';
import { services } from '../../../../src/server/services';

/** Ends the take that plays. */
export function DELETE(request: Request): Promise<Response> {
  return handle(request, () => {
    services().takes.stopPlaying();
    return Promise.resolve({});
  });
}
