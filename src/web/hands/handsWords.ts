import type { HandsProfile } from '../../core/hands/profile';
import type { HandsNow } from './messages';

const DARK = 0.18;
const FEW = 12;

/** Results a second, and what to do where they are few. */
export function rateInWords(perS: number, light: number, { model, hands }: Pick<HandsProfile, 'model' | 'hands'>): string {
  const rate = `${Math.round(perS)} a second`;
  if (perS >= FEW) return rate;
  if (light < DARK) return `too dark: ${rate}; more light on the hands makes the camera faster`;
  const faster = [model === 'exact' && 'choose the fast model', hands === 2 && 'look for one hand', 'close other programs'].filter(Boolean);
  return `${rate}: few; ${faster.join(', or ')}`;
}

/** How bright the picture is, 0 to 1. */
export function lightInWords(light: number): string {
  if (Number.isNaN(light)) return 'needs none';
  const share = `${Math.round(100 * light)} %`;
  if (light < DARK / 4) return `${share}: the camera is covered, or the room is dark`;
  return light < DARK ? `${share}: too dark` : share;
}

/** What a hand does now. */
export function handInWords({ hands }: HandsNow, side: 'left' | 'right'): string {
  const hand = hands.find((one) => one.side === side);
  if (!hand) return 'not there';
  return [...hand.gestures, ...(hand.pose === null ? [] : [hand.pose])].join(', ') || 'there';
}
