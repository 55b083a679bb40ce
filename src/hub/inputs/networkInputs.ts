import type { Player } from '../player';
import type { Intake } from './intake';
import { MidiDevice } from './midiDevice';

/** Whoever is in a session of network MIDI is an input, by the name that it says of itself. */
export class NetworkInputs {
  private readonly devices = new Map<string, MidiDevice>();

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
  ) {}

  opened(id: string, name: string, address: string): void {
    this.devices.set(id, new MidiDevice({ report: name, name }, { connection: `network ${name} ${address}`, where: `network, ${address}` }, this.player, this.intake));
  }

  heard(id: string, bytes: Uint8Array, timeMs: number): void {
    this.devices.get(id)?.push(bytes, timeMs);
  }

  gone(id: string): void {
    this.devices.get(id)?.close();
    this.devices.delete(id);
  }

  rigChanged(): void {
    for (const midi of this.devices.values()) midi.rigChanged();
  }

  close(): void {
    for (const id of [...this.devices.keys()]) this.gone(id);
  }
}
