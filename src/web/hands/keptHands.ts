import { FRESH_HANDS, type HandsProfile } from '../../core/hands/profile';
import { fetchHands, putHands } from '../live/fetchRig';

/** Where the settings of the hands are kept. */
export const KEPT_HANDS = {
  what: 'settings of the hands',
  fetch: fetchHands,
  put: putHands,
  browserKey: 'pumice.hands.profile',
  read: (kept: unknown): HandsProfile => ({ ...FRESH_HANDS, ...(kept as Partial<HandsProfile> | undefined) }),
};
