import type { LineStatus } from './line';

/** What the page of a device says of its line, empty while it is up; `what` goes nowhere meanwhile: `what is sung`. */
export function deviceLineInWords(status: LineStatus, what: string): string {
  switch (status) {
    case 'open':
      return '';
    case 'connecting':
      return 'Pumice is being called';
    case 'lost':
      return `No connection to Pumice: ${what} goes nowhere until it is back`;
    case 'dropped':
      return 'The host has dropped this device';
    default:
      return status satisfies never;
  }
}
