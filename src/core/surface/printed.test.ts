import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { voiceRig } from '../engine/voices/testVoices';
import { captionsOf } from './captions';
import { plainControl } from './controlKinds';
import { printedPage, printedSheets, sentBy } from './printed';

const rig = testRig([{}, { signal: 'fog.touch', message: { kind: 'note', channel: 10, note: 60, velocity: 100 } }]);
const [surface] = rig.surfaces;
const [page] = surface!.pages;

it('says what a control sends, of its value and of its touch', () => {
  expect(sentBy(rig, page!.controls[0]!)).toEqual(['channel 3 · CC 21 · Weather', 'touch: channel 10 · note C4 · Weather']);
  expect(sentBy(rig, page!.controls[1]!)).toEqual([]);
  const pad = { id: 'pad', kind: 'xy' as const, label: 'Pad', frame: { x: 0, y: 0, width: 10, height: 10 }, signals: { x: 'fog', y: 'bell', touch: 'fog.touch' } };
  expect(sentBy(rig, pad)[0]).toBe('x: channel 3 · CC 21 · Weather');
});

it('says where its voices go, on the sheet and, without a label, on the control itself', () => {
  const voices = voiceRig({ layout: { kind: 'poly', channel: 5, voices: 8, steal: 'oldest' } }, { layout: { kind: 'zone', zone: 'upper', members: 4, steal: 'oldest' } });
  const keys = { ...plainControl('keys', 'keys', '', { x: 0, y: 0, width: 400, height: 100 }), stream: 'hull' };
  expect(sentBy(voices, keys)).toEqual(['voices: channel 5 · notes · Weather', 'voices: MPE upper · 4 · Weather']);
  expect(captionsOf(voices, { ...surface!, pages: [{ ...page!, controls: [keys] }] })).toEqual({ keys: 'ch 5 · notes' });
});

it('puts every control in its place, with its label and its numbers, all within its frame', () => {
  const svg = printedPage(rig, surface!, page!);
  expect(svg).toContain('<rect x="100" y="0" width="100" height="100"');
  const sizes = [...svg.matchAll(/<text x="([\d.]+)" y="([\d.]+)" font-size="([\d.]+)"[^>]*>([^<]*)</g)].slice(1).map(([, x, y, size, text]) => ({ x: Number(x), y: Number(y), size: Number(size), text: text! }));
  expect(sizes.map(({ text }) => text)).toEqual(['Fog', 'channel 3 · CC 21 · Weather', 'touch: channel 10 · note C4 · Weather', 'Bell']);
  for (const { size, text } of sizes) expect(Math.max(5, size) <= 5 || size * text.length * 0.56 <= 100).toBe(true);
});

it('keeps names that look like markup as text', () => {
  const named = { ...surface!, name: '<script>&"' };
  const svg = printedPage(rig, named, { ...page!, controls: [{ ...page!.controls[0]!, label: "it's <b>" }] });
  expect(svg).not.toMatch(/<script|<b>/);
  expect(svg).toContain('&lt;script&gt;&amp;&quot;');
});

it('has a sheet for each page and each fold-out, and keeps a control with many messages legible', () => {
  const many = testRig(Array.from({ length: 20 }, (_, i) => ({ message: { kind: 'note', channel: 10, note: 40 + i, velocity: 100 } })));
  const [deck] = many.surfaces;
  const fold = { id: 'more', kind: 'fold' as const, label: 'More', frame: { x: 0, y: 0, width: 50, height: 50 }, signals: {}, opens: 'hold' as const, panel: { x: 0, y: 0, width: 300, height: 200 }, controls: [{ ...deck!.pages[0]!.controls[0]!, id: 'inner', frame: { x: 0, y: 0, width: 250, height: 180 } }] };
  const sheets = printedSheets(many, { ...deck!, pages: [{ ...deck!.pages[0]!, controls: [fold] }] });
  expect(sheets.map(({ name }) => name)).toEqual(['Deck', 'Deck More']);
  expect(sheets[1]!.svg).toContain('… and 13 more, to');
  expect(sheets[1]!.svg).toContain('note B3');
});
