import { OSC_ADDRESS } from '../../../core/messages/osc';

/** A name as it is kept; throws where there is none. */
export function nameFrom(text: string): string {
  if (text.trim() === '') throw new Error('A name has at least one character: it keeps the one it had.');
  return text.trim();
}

/** Whether a text is the IP address of a computer, as the server takes it. */
export function isIpAddress(text: string): boolean {
  const parts = text.split('.');
  return parts.length === 4 && parts.every((part) => /^\d+$/.test(part) && Number(part) <= 255 && String(Number(part)) === part);
}

/** An IP address as it is kept: displays of devices like to say 192.168.001.020. What is none is left for the server to refuse. */
export function hostFrom(text: string): string {
  const host = text.trim();
  return /^\d+(\.\d+){3}$/.test(host) ? host.split('.').map(Number).join('.') : host;
}

/** An OSC address as it is kept; throws where it is none. */
export function addressFrom(text: string): string {
  const address = text.trim();
  if (!OSC_ADDRESS.expression.test(address)) throw new Error(`“${text}” is not ${OSC_ADDRESS.words}. Nothing was changed.`);
  return address;
}
