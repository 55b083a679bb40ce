import { number, optional, whole, type Shape } from '../../messages/shapes';

export const streamId: Shape = { is: 'id', of: 'stream' };
export const signal: Shape = { is: 'id', of: 'signal' };
export const gate = optional(signal);
/** From a 32nd triplet to four bars. */
export const everyBeats = number(1 / 12, 16);
export const stepShare = number(0.05, 4);
export const key = whole(0, 127);
export const strike = number(0, 1);
export const tonic = whole(0, 11);
