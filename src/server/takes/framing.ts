import { promisify } from 'node:util';
import { gunzipSync, gzip } from 'node:zlib';
import { joinPieces, splitPieces } from '../../core/takes/bytes';
import { LIMITS } from '../../protocol/limits';

/** What the first version of a take is called. */
export const AS_PLAYED = 'As it was played';

/** Pieces with their lengths before them, gzip: as scores lie in the database, and scores and logs go to pages. */
export async function framed({ pieces }: { pieces: readonly Uint8Array[] }): Promise<Buffer> {
  return promisify(gzip)(joinPieces(pieces), { level: 4 }) as Promise<Buffer>;
}

/** Throws where they are no such pieces, or a little that would become far too much. */
export function unframed(bytes: Uint8Array): Uint8Array[] {
  return splitPieces(new Uint8Array(gunzipSync(bytes, { maxOutputLength: LIMITS.takeFileBytes })));
}
