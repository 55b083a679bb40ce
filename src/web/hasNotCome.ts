/**
 * Whether a worker ended since its scripts could not be fetched: the first of them ends in an event without a message, those that it brings in a
 * `NetworkError`. All else is a fault of its own.
 */
export function hasNotCome(event: Event): boolean {
  return !(event instanceof ErrorEvent) || event.message.includes('NetworkError');
}
