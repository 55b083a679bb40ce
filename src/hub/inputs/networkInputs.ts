import type { Player } from '../player';
import type { Intake } from './intake';
import { MidiFeed } from './midiFeed';

/** Whoever is in a session of network MIDI is an input, by the name that it says of itself. */
export class NetworkInputs {
  private readonly feeds = new Map<string, MidiFeed>();

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
  ) {}

  opened(id: string, name: string, address: string): void {
    this.feeds.set(id, new MidiFeed({ report: name, name }, { connection: `network ${name} ${address}`, where: `network, ${address}` }, this.player, this.intake));
  }

  heard(id: string, bytes: Uint8Array, timeMs: number): void {
    this.feeds.get(id)?.push(bytes, timeMs);
  }

  gone(id: string): void {
    this.feeds.get(id)?.close();
    this.feeds.delete(id);
  }

  rigChanged(): void {
    for (const midi of this.feeds.values()) midi.rigChanged();
  }

  close(): void {
    for (const id of [...this.feeds.keys()]) this.gone(id);
  }
}
