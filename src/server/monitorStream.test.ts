import { expect, it } from 'vitest';
import type { HubLink, MonitorListener } from './hubLink';
import { monitorStream } from './monitorStream';

it('says first that it listens, once the hub does, and nothing of before', async () => {
  let listener: MonitorListener | undefined;
  const link = { listen: (its: MonitorListener) => ((listener = its), () => undefined) } as unknown as HubLink;
  const gone = new AbortController();
  const reader = monitorStream(link, gone.signal).pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
  const fact = (value: number) => listener!.fact({ timeMs: 0, direction: 'in', input: 'deck', signal: 'fog', value });
  // Somebody else listens already, so the hub tells before it has heard of this one.
  fact(1);
  listener!.dropped(3);
  listener!.listens!();
  fact(2);
  // The line was lost and is back.
  listener!.listens!();
  fact(3);
  gone.abort();
  let text = '';
  for (let piece = await reader.read(); !piece.done; piece = await reader.read()) text += piece.value;
  expect(text.trim().split('\n').map((line) => JSON.parse(line) as object)).toEqual([{ watching: true }, expect.objectContaining({ value: 2 }), expect.objectContaining({ value: 3 })]);
});
