import type { LineStatus, Waiting } from './line';

/** What a page says of its line, empty while it is up: what happened, and what it waits for. */
export function lineInWords(status: LineStatus, waitsFor: Waiting, host: string): string {
  switch (status) {
    case 'open':
      return '';
    case 'connecting':
      return waitsFor === 'answer' ? `Nobody answers at ${host} yet. Trying again…` : 'Connecting…';
    case 'lost':
      return waitsFor === 'socket' ? 'No connection to Pumice. It is back: opening the line…' : `No connection to Pumice. Waiting for it to answer at ${host}…`;
    case 'dropped':
      return 'The host has dropped this device.';
    default:
      return status satisfies never;
  }
}
