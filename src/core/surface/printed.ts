import type { RigControl, RigDocument, RigPage, RigSurface } from '../rig/document';
import { whereInWords, type EitherMapping } from '../mapping/either';
import { streamOf } from './controlKinds';

const TITLE_PX = 44;
const MARGIN_PX = 12;
const LINE_EM = 1.25;
/** More lines than this on one control nobody could read. */
const MOST_LINES = 8;
/** The widest letter of the numbers, as a share of its height: text is made to fit without measuring it. */
const LETTER_EM = 0.56;

/** What a control sends, a line for each mapping of its signals, then of its voices: `CC 21 · channel 3 · Weather`. */
export function sentBy(rig: RigDocument, control: RigControl): string[] {
  const outputOf = ({ output }: EitherMapping) => rig.outputs.find(({ id }) => id === output)?.name ?? output;
  const line = (mapping: EitherMapping) => `${whereInWords(mapping)} · ${outputOf(mapping)}`;
  const signals = Object.entries(control.signals);
  const roles = signals.filter(([role]) => !role.startsWith('touch')).length;
  const ofSignals = signals.flatMap(([role, id]) => rig.mappings.filter(({ signal }) => signal === id).map((mapping) => `${role.startsWith('touch') || roles > 1 ? `${role}: ` : ''}${line(mapping)}`));
  const played = streamOf(control);
  return [...ofSignals, ...rig.voiceMappings.filter(({ stream }) => stream === played).map((mapping) => `voices: ${line(mapping)}`)];
}

/**
 * A page of a surface as a picture to be printed and pinned up: every control in its place with its label and what it sends.
 * SVG 1.1; lengths are those of the surface. Black on white, for that is what printers are good at.
 */
export function printedPage(rig: RigDocument, surface: RigSurface, page: RigPage): string {
  const width = surface.width + 2 * MARGIN_PX;
  const height = surface.height + TITLE_PX + 2 * MARGIN_PX;
  const title = surface.pages.length > 1 ? `${surface.name} · ${page.name}` : surface.name;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="Atkinson Hyperlegible Next, sans-serif" fill="#000">`,
    `<rect width="${width}" height="${height}" fill="#fff"/>`,
    `<text x="${MARGIN_PX}" y="${TITLE_PX - MARGIN_PX}" font-size="24" font-weight="700">${escaped(title)} <tspan font-weight="400" font-size="16">${escaped(rig.name)}</tspan></text>`,
    `<g transform="translate(${MARGIN_PX} ${TITLE_PX})">`,
    `<rect width="${surface.width}" height="${surface.height}" fill="none" stroke="#000" stroke-width="2" rx="10"/>`,
    ...page.controls.map((control) => printedControl(rig, control)),
    '</g>',
    '</svg>',
    '',
  ].join('\n');
}

/** All sheets of a surface by name: its pages, and the panels of the fold-outs on them. */
export function printedSheets(rig: RigDocument, surface: RigSurface): { name: string; svg: string }[] {
  return surface.pages.flatMap((page) => [
    { name: surface.pages.length > 1 ? `${surface.name} ${page.name}` : surface.name, svg: printedPage(rig, surface, page) },
    ...page.controls.flatMap((control) => {
      if (control.kind !== 'fold') return [];
      const name = `${surface.name} ${control.label || 'fold-out'}`;
      return [{ name, svg: printedPage(rig, { ...surface, name, width: control.panel.width, height: control.panel.height, pages: [page] }, { ...page, controls: control.controls }) }];
    }),
  ]);
}

function printedControl(rig: RigDocument, control: RigControl): string {
  const { x, y, width, height } = control.frame;
  const sent = sentBy(rig, control);
  const shown = sent.length > MOST_LINES ? [...sent.slice(0, MOST_LINES - 2), `… and ${sent.length - MOST_LINES + 1} more, to`, sent.at(-1)!] : sent;
  const lines = [control.label, ...shown];
  const room = width - 2 * MARGIN_PX;
  const texts = lines.map((line, i) => {
    const most = i === 0 ? 20 : 13;
    const size = Math.max(5, Math.min(most, room / Math.max(1, line.length * LETTER_EM), (height - 2 * MARGIN_PX) / (lines.length * LINE_EM)));
    return { line, size, weight: i === 0 ? 700 : 400 };
  });
  let top = y + MARGIN_PX;
  const written = texts.map(({ line, size, weight }) => {
    top += size * LINE_EM;
    return `<text x="${x + MARGIN_PX}" y="${fixed(top)}" font-size="${fixed(size)}" font-weight="${weight}">${escaped(line)}</text>`;
  });
  return [`<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="none" stroke="#000" rx="6"/>`, ...written].join('\n');
}

const fixed = (length: number) => Number(length.toFixed(1));

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' };

function escaped(text: string): string {
  return text.replace(/[&<>"']/g, (character) => ENTITIES[character]!);
}
