import { services } from '../../../src/server/services';

export const dynamic = 'force-dynamic';

/** The worker that finds hands; another after each build. */
export async function GET(): Promise<Response> {
  const { bytes, type } = await services().handsFiles.worker();
  return new Response(bytes as Uint8Array<ArrayBuffer>, { headers: { 'content-type': type, 'cache-control': 'no-cache' } });
}
