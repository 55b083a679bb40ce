import type { RigMapping } from '../../core/rig/document';
import { LiveConnection } from '../live/connection';
import { browserLineWorld } from '../live/line';
import { addPainter, type Painter } from '../live/painter';
import type { Palette } from '../theme/tokens';
import { BandPicture } from './bandPicture';
import { BeforeAfterPicture } from './beforeAfterPicture';
import { readyCanvas } from './drawing';
import type { LivePicture } from './livePicture';
import { MeterPicture } from './meterPicture';
import type { Picture, PictureSize, ToPictures } from './protocol';
import { ShapingPicture } from './shapingPicture';
import { TracePicture } from './tracePicture';

/** Draws the pictures of a page apart from it, from a live line of its own: what moves in them costs the page nothing. */
interface Shown {
  context: OffscreenCanvasRenderingContext2D;
  size: PictureSize | null;
  picture: LivePicture | null;
  palette: Palette | null;
  painter: Painter;
}

const nowMs = () => performance.timeOrigin + performance.now();
let live: LiveConnection | null = null;
const pictures = new Map<number, Shown>();

onmessage = ({ data }: MessageEvent<ToPictures>) => {
  switch (data.kind) {
    case 'line':
      live = new LiveConnection(browserLineWorld(data.url, nowMs), undefined, nowMs);
      return live.start();
    case 'add':
      return add(data.key, data.canvas);
    case 'show':
      return show(data.key, data.picture, data.palette);
    case 'size':
      return onPicture(data.key, (shown) => {
        shown.size = data.size;
        shown.painter.wake();
      });
    case 'remove':
      return onPicture(data.key, (shown) => {
        shown.picture?.remove();
        shown.painter.remove();
        pictures.delete(data.key);
      });
    default:
      return data satisfies never;
  }
};

function add(key: number, canvas: OffscreenCanvas): void {
  const shown: Shown = { context: canvas.getContext('2d')!, size: null, picture: null, palette: null, painter: addPainter((frameMs) => draw(shown, frameMs), true) };
  pictures.set(key, shown);
}

function show(key: number, picture: Picture, palette: Palette): void {
  onPicture(key, (shown) => {
    const before = shown.picture;
    shown.picture = made(picture, shown);
    // After that: what both show is watched all the while.
    before?.remove();
    shown.palette = palette;
    shown.painter.wake();
  });
}

function made(picture: Picture, { painter, picture: before }: Shown): LivePicture {
  const wake = (forMs?: number) => painter.wake(forMs);
  switch (picture.kind) {
    case 'trace':
      return new TracePicture(live!, picture.signal, wake, before instanceof TracePicture && before.signal.id === picture.signal.id ? before.trace : undefined);
    case 'band':
      return new BandPicture(live!, picture.mapping, picture.signal, wake, before instanceof BandPicture && isOfSame(before.mapping, picture.mapping) ? before.trace : undefined);
    case 'shaping':
      return new ShapingPicture(live!, picture.mapping, picture.signal, wake, before instanceof ShapingPicture && isOfSame(before.mapping, picture.mapping) ? before.trail : undefined);
    case 'beforeAfter': {
      const known = before instanceof BeforeAfterPicture && isOfSame(before.mapping, picture.mapping) ? before : undefined;
      return new BeforeAfterPicture(live!, picture.mapping, picture.signal, wake, known?.before, known?.after);
    }
    case 'meter':
      return new MeterPicture(live!, picture.mapping, wake);
    default:
      return picture satisfies never;
  }
}

/** Whether what was seen of one is the past of the other. */
const isOfSame = (one: RigMapping, other: RigMapping) => one.id === other.id && one.signal === other.signal;

function draw({ context, size, picture, palette }: Shown, frameMs: number): void {
  if (!size || !picture || !palette) return;
  const { width, height, density } = size;
  readyCanvas({ context, width, height }, density);
  picture.draw({ context, width, height, palette, nowMs: frameMs });
}

function onPicture(key: number, what: (shown: Shown) => void): void {
  const shown = pictures.get(key);
  if (shown) what(shown);
}
