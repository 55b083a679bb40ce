import { OSC_ADDRESS } from '../../../core/messages/osc';

/** A name as it is kept; throws where there is none. */
export function nameFrom(text: string): string {
  if (text.trim() === '') throw new Error('A name has at least one character: it keeps the one it had.');
  return text.trim();
}

/** An OSC address as it is kept; throws where it is none. */
export function addressFrom(text: string): string {
  const address = text.trim();
  if (!OSC_ADDRESS.expression.test(address)) throw new Error(`“${text}” is not ${OSC_ADDRESS.words}. Nothing was changed.`);
  return address;
}
