/** A hand as it is drawn. Places as the performer has them, 0 to 1 to their right and upwards. */
export interface RenderedHand {
  side: 'left' | 'right';
  x: number;
  y: number;
  /** From the camera, in metres. */
  awayM: number;
  /** Index to little finger, 0 to 1. */
  bends: readonly [number, number, number, number];
  thumb: number;
  rollDeg: number;
  turnDeg: number;
}

/** One picture of a clip. */
export interface ClipPicture {
  part: string;
  hands: RenderedHand[];
}

const FLAT: RenderedHand = { side: 'left', x: 0.5, y: 0.55, awayM: 0.45, bends: [0, 0, 0, 0], thumb: 0, rollDeg: 0, turnDeg: 0 };
const hand = (set: Partial<RenderedHand>): RenderedHand => ({ ...FLAT, ...set });
const closed = (share: number) => ({ bends: [share, share, share, share] as const, thumb: share });
/** 0 to 1 and back, resting at both ends. */
const toAndFro = (share: number) => Math.min(1, Math.max(0, 0.5 - 0.75 * Math.cos(2 * Math.PI * share)));
const part = (name: string, pictures: number, at: (share: number) => RenderedHand[]): ClipPicture[] => Array.from({ length: pictures }, (_, i) => ({ part: name, hands: at(i / pictures) }));

/** What a hand that pinches does: found by trying, so that the tips of thumb and index finger meet. */
export const PINCHED = { index: 0.62, thumb: 0.85 };

/** Hands that are drawn for the tests, with everything in them that is to be found. */
export const CLIP: readonly ClipPicture[] = [
  ...part('circle', 24, (share) => [hand({ x: 0.5 + 0.18 * Math.sin(2 * Math.PI * share), y: 0.52 + 0.12 * Math.cos(2 * Math.PI * share) })]),
  ...part('fists', 40, (share) => [hand(closed(toAndFro(2 * share)))]),
  ...part('pinches', 40, (share) => {
    const pinched = toAndFro(2 * share);
    return [hand({ bends: [PINCHED.index * pinched, 0.1 * pinched, 0.1 * pinched, 0.1 * pinched], thumb: PINCHED.thumb * pinched })];
  }),
  ...part('turning', 32, (share) => [hand({ turnDeg: 180 * toAndFro(share) })]),
  ...part('leaving', 24, (share) => [hand({ ...closed(0.45), awayM: 0.35 + 0.35 * share })]),
  ...part('other hand', 20, (share) => [hand({ side: 'right', x: 0.35 + 0.3 * share, rollDeg: 20 * Math.sin(2 * Math.PI * share) })]),
  ...part('two hands', 24, (share) => [hand({ x: 0.25, awayM: 0.6 }), hand({ side: 'right', x: 0.75, y: 0.4 + 0.25 * share, awayM: 0.6 })]),
  // One before the other for a moment, the left one higher.
  ...part('crossing', 36, (share) => [hand({ x: 0.5 - 0.3 * Math.cos(2 * Math.PI * share), y: 0.66, awayM: 0.62 }), hand({ side: 'right', x: 0.5 + 0.3 * Math.cos(2 * Math.PI * share), y: 0.4, awayM: 0.62 })]),
  ...part('still', 20, () => [hand({ ...closed(0.3) })]),
];

/** In these the first of each part all of it is to be found too, but for a second fist, a second pinch and the way back: for who has less time than `npm run bench hands`. */
const FIRST: Readonly<Record<string, number>> = { circle: 12, fists: 20, pinches: 20, turning: 16, leaving: 24, 'other hand': 8, 'two hands': 8, crossing: 20, still: 14 };
export const SHORT_CLIP: readonly ClipPicture[] = CLIP.filter(({ part: name }, i) => i - CLIP.findIndex((first) => first.part === name) < FIRST[name]!);
