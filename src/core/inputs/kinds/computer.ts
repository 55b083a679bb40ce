import { choice, object, optional, whole } from '../../messages/shapes';
import { device, type FeedIdentity, type InputBase, type InputKind } from './kind';

/** Keys that can take the pointer over while they are held, by the codes of the W3C UI Events specification. */
export const TAKING_KEYS = ['Backquote', 'IntlBackslash', 'AltRight', 'ControlRight', 'ShiftRight', 'F9'] as const;

export const MOST_LANES = 8;

/** How the computer's own mouse or touchpad plays while it is taken over. */
export interface PointerTaking {
  /** `lanes` values side by side of which one is in hand, or two values at once. */
  as: 'lanes' | 'xy';
  /** 1..8. */
  lanes: number;
  /** From where a value stands, or once the pointer met it. */
  how: 'relative' | 'pickUp';
  /** Takes it over while it is held; null: only by the button. */
  key: (typeof TAKING_KEYS)[number] | null;
}

/** Where an input says nothing else. */
export const USUAL_TAKING: PointerTaking = { as: 'lanes', lanes: 4, how: 'relative', key: null };

/** Keyboard and pointer. */
export interface ComputerInput extends InputBase {
  kind: 'computer';
  device: FeedIdentity;
  /** How the pointer plays when it is taken over. */
  taking?: PointerTaking;
}

export const computer: InputKind<ComputerInput> = {
  fields: {
    device,
    taking: optional(object({ as: choice('lanes', 'xy'), lanes: whole(1, MOST_LANES), how: choice('relative', 'pickUp'), key: choice(...TAKING_KEYS, null) })),
  },
  words: () => 'This computer',
  found: (base, from) => ({ ...base, kind: 'computer', device: from }),
  canBeAway: true,
};
