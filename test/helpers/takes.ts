import { gunzipSync } from 'node:zlib';
import { splitPieces } from '../../src/core/takes/bytes';
import { hexOf } from '../../src/core/midi/describe';
import { readScore, type ScoreMessage } from '../../src/core/takes/score';
import type { RecordingState, TakeDetail, TakeSummary } from '../../src/protocol/takes';
import type { TestClient } from './client';
import { waitFor, type Pumice } from './pumice';

/** What the hub said last of recording. */
export const recordingOf = (client: TestClient): RecordingState | undefined => client.messages.flatMap((message) => (message.kind === 'recording' ? [message.recording] : [])).at(-1);

export async function takesOf({ url }: Pumice): Promise<TakeSummary[]> {
  return (await fetch(`${url}/api/takes`)).json() as Promise<TakeSummary[]>;
}

/** A take once it has a version, and the messages of its first. */
export async function renderedTake({ url }: Pumice, id: string): Promise<TakeDetail & { score: ScoreMessage[] }> {
  const detail = await waitFor('the take to be rendered', async () => {
    const now = (await (await fetch(`${url}/api/takes/${id}`)).json()) as TakeDetail;
    if (now.failure) throw new Error(now.failure);
    return now.versions.length > 0 ? now : null;
  });
  return { ...detail, score: await scoreOf({ url }, id, detail.versions[0]!.id) };
}

export async function scoreOf({ url }: Pick<Pumice, 'url'>, id: string, version: string): Promise<ScoreMessage[]> {
  return readScore(unframed(new Uint8Array(await (await fetch(`${url}/api/takes/${id}/versions/${version}/score`)).arrayBuffer())));
}

/** Pieces with their lengths before them, as the program answers them. */
export function unframed(bytes: Uint8Array): Uint8Array[] {
  return splitPieces(new Uint8Array(gunzipSync(bytes)));
}

/** As the monitor writes them. */
export const asSent = (score: readonly ScoreMessage[]): string[] => score.map(({ source, bytes }) => `${source.output} ${hexOf(bytes)}`);
