import type { BrowserContext } from '@playwright/test';

declare global {
  interface Window {
    /** The pads of the page-level stand-in. */
    testPads: { plug(index: number, id: string): void; set(index: number, axes: Record<number, number>, buttons?: Record<number, number>): void; unplug(index: number): void };
    testMidi: { /** What was written to its output. */ written: number[][]; say(...bytes: number[]): void; /** At a time of the page, as a driver stamps what it hears. */ sayAt(timeMs: number, ...bytes: number[]): void; unplug(): void };
  }
}

/** A stand-in of the Gamepad API in every page of a context: there is no hardware here. */
export async function withGamepads(context: BrowserContext): Promise<void> {
  await context.addInitScript(() => {
    interface TestPad {
      index: number;
      id: string;
      connected: boolean;
      timestamp: number;
      axes: number[];
      buttons: { value: number; pressed: boolean }[];
    }
    const pads: (TestPad | null)[] = [null, null, null, null];
    navigator.getGamepads = () => pads as unknown as Gamepad[];
    window.testPads = {
      plug: (index, id) => {
        pads[index] = { index, id, connected: true, timestamp: 1, axes: [0, 0, 0, 0], buttons: Array.from({ length: 17 }, () => ({ value: 0, pressed: false })) };
      },
      set: (index, axes, buttons = {}) => {
        const pad = pads[index]!;
        for (const [i, value] of Object.entries(axes)) pad.axes[Number(i)] = value;
        for (const [i, value] of Object.entries(buttons)) pad.buttons[Number(i)] = { value, pressed: value > 0 };
        pad.timestamp = Math.max(pad.timestamp + 0.001, performance.now());
      },
      unplug: (index) => {
        pads[index] = null;
      },
    };
  });
}

/** A stand-in of browser MIDI with one port in and one out. */
export async function withMidi(context: BrowserContext): Promise<void> {
  await context.addInitScript(() => {
    const port = { id: 'one', name: 'Test keys', manufacturer: 'Nobody', state: 'connected', onmidimessage: null as ((event: object) => void) | null };
    const inputs = new Map([[port.id, port]]);
    const written: number[][] = [];
    const out = { id: 'out', name: 'Test horn', manufacturer: 'Nobody', state: 'connected', send: (bytes: Uint8Array) => void written.push([...bytes]) };
    const outputs = new Map([[out.id, out]]);
    const access = { inputs, outputs, onstatechange: null as (() => void) | null };
    Object.defineProperty(navigator, 'requestMIDIAccess', { value: () => Promise.resolve(access) });
    window.testMidi = {
      written,
      say: (...bytes) => port.onmidimessage?.({ data: Uint8Array.from(bytes), timeStamp: performance.now() }),
      sayAt: (timeMs, ...bytes) => port.onmidimessage?.({ data: Uint8Array.from(bytes), timeStamp: timeMs }),
      unplug: () => {
        port.state = 'disconnected';
        access.onstatechange?.();
      },
    };
  });
}
