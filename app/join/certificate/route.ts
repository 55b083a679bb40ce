import { ProblemError } from '../../../src/protocol/problem';
import { handle } from '../../../src/server/http/handle';
import { services } from '../../../src/server/services';

/** The certificate that a device is told once to trust. Its key never leaves the data folder. */
export async function GET(request: Request): Promise<Response> {
  const { certificate } = services();
  if (certificate !== null) return new Response(certificate, { headers: { 'content-type': 'application/x-x509-ca-cert', 'content-disposition': 'attachment; filename="pumice.crt"' } });
  return handle(request, () => Promise.reject(new ProblemError('not-found', '', 'Pumice was started without --https and has no certificate.')));
}
