import { gamepadSources } from '../inputs/gamepadSources';
import type { Knob, StandIn } from './standIn';

const AXES = 4;
const BUTTONS = 17;
const sources = gamepadSources(AXES, BUTTONS);

/** A gamepad whose left stick wanders while nobody touches it. */
export const deckHand: StandIn = {
  id: 'deck-hand',
  name: 'Deck hand',
  about: 'Gamepad whose left stick drifts',
  feed: { kind: 'gamepad', report: 'stand-in gamepad', name: 'Deck hand' },
  sources,
  knobs: sources.map(({ key, name, kind, range, rest }): Knob => ({ key, name, kind, range, rest: rest ?? 0 })),
  defaults: { byItself: true, noise: 0.002, drift: 0.03, rateHz: 60, faults: 0 },
  play(timeS) {
    const beat = Math.floor(timeS * 2);
    const pressed = [0, 1, 2, 3][beat % 4]!;
    return sources.map((_, i) => {
      if (i < AXES) return Math.sin(timeS * (0.7 + i * 0.31) + i);
      const button = i - AXES;
      if (button === 6 || button === 7) return 0.5 - 0.5 * Math.cos(timeS * 0.4 + button);
      return button === pressed && timeS * 2 - beat < 0.5 && beat % 8 < 4 ? 1 : 0;
    });
  },
  specimen: () => ({
    read: ({ knobs, settings, random }) =>
      // A fault is a loose contact: everything is let go of for one reading.
      random() < settings.faults
        ? sources.map(({ key, rest }) => ({ way: 'source', key, value: rest ?? 0 }))
        : sources.map(({ key }, i) => ({ way: 'source', key, value: knobs[i]! })),
  }),
};
