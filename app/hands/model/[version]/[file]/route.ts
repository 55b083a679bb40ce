import { handle } from '../../../../../src/server/http/handle';
import { services } from '../../../../../src/server/services';

export const dynamic = 'force-dynamic';

/** A file of the model that finds hands; what a version has never changes. Its length is said in a header of its own: that of HTTP is not sent with pieces. */
export async function GET(request: Request, { params }: { params: Promise<{ version: string; file: string }> }): Promise<Response> {
  const { version, file } = await params;
  try {
    const { bytes, type } = await services().handsFiles.model(version, file);
    return new Response(bytes as Uint8Array<ArrayBuffer>, { headers: { 'content-type': type, 'x-pumice-bytes': String(bytes.length), 'cache-control': 'public, max-age=31536000, immutable, no-transform' } });
  } catch (error) {
    return handle(request, () => Promise.reject(error as Error));
  }
}
