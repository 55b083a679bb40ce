/** The part of a WebSocket that the line uses. */
export interface LineSocket {
  readonly readyState: number;
  binaryType: string;
  onopen: (() => void) | null;
  onmessage: ((event: { data: ArrayBuffer | string }) => void) | null;
  onclose: ((event: { code: number }) => void) | null;
  send(data: ArrayBuffer | string): void;
  close(): void;
}
