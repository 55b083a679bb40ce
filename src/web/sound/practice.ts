import type * as Tone from './tone';
import { Part } from '../../core/instruments/part';
import { encode } from '../../core/midi/encode';
import type { RigDocument, RigReceiver } from '../../core/rig/document';
import type { Heard } from '../../protocol/frames';
import type { NamedFact } from '../live/store';
import { makeInstrument, type Instrument } from './instruments';

/** Above this nothing gets, whatever sounds together. */
const CEILING_DB = -3;

interface Playing {
  instrument: Instrument;
  part: Part;
  /** What it was made of: another is made when that changes. */
  receiver: RigReceiver;
  /** Whether it knows what its output holds since before it was made. */
  knows: boolean;
}

/** The stand-in receivers of a rig as sound: each output that leads to one has an instrument of its own. */
export class Practice {
  private readonly master: Tone.Volume;
  private readonly limiter: Tone.Limiter;
  private readonly meter: Tone.Meter;
  private readonly playing = new Map<string, Playing>();

  constructor(
    private readonly tone: typeof Tone,
    volumeDb: number,
  ) {
    this.meter = new tone.Meter();
    this.limiter = new tone.Limiter(CEILING_DB).toDestination();
    this.limiter.connect(this.meter);
    this.master = new tone.Volume(volumeDb).connect(this.limiter);
  }

  set volumeDb(volumeDb: number) {
    this.master.volume.rampTo(volumeDb, 0.05);
  }

  /** What leaves the loudspeaker now, in dB. */
  get levelDb(): number {
    return Number(this.meter.getValue());
  }

  /** Makes the instruments that a rig asks for; those that stay play on. */
  follow(rig: RigDocument): void {
    const wanted = new Map(rig.outputs.flatMap((output) => (output.kind === 'standIn' ? [[output.id, rig.receivers.find(({ id }) => id === output.receiver)!] as const] : [])));
    for (const [id, { instrument, receiver }] of this.playing) {
      if (sameSound(wanted.get(id), receiver)) continue;
      instrument.dispose();
      this.playing.delete(id);
    }
    for (const [id, receiver] of wanted) {
      const { sound } = receiver;
      if (!sound || this.playing.has(id)) continue;
      const instrument = makeInstrument(this.tone, sound.instrument, this.master);
      this.playing.set(id, { instrument, receiver, part: new Part(sound, receiver, instrument), knows: false });
    }
  }

  /** Outputs whose instruments do not know yet what was held when they were made. */
  get unknown(): string[] {
    return [...this.playing].flatMap(([id, { knows }]) => (knows ? [] : [id]));
  }

  /** What an output holds: its controllers and bends. A note that was struck before there was an instrument is none of its own. */
  holds(output: string, held: Iterable<Heard>): void {
    const playing = this.playing.get(output);
    if (!playing) return;
    playing.knows = true;
    for (const { kind, channel, number, value } of held) {
      if (kind === 'controlChange') playing.part.push(encode({ kind, channel, controller: number, value }));
      if (kind === 'pitchBend') playing.part.push(encode({ kind, channel, bend: value }));
    }
  }

  /** Sounds what left. */
  hear(facts: readonly NamedFact[]): void {
    for (const { bytes, where } of facts) if (bytes) this.playing.get(where)?.part.push(bytes);
  }

  silence(): void {
    for (const { instrument } of this.playing.values()) instrument.silence();
  }

  dispose(): void {
    for (const { instrument } of this.playing.values()) instrument.dispose();
    for (const node of [this.master, this.limiter, this.meter]) node.dispose();
  }
}

function sameSound(a: RigReceiver | undefined, b: RigReceiver): boolean {
  return a !== undefined && a.bendRangeSemitones === b.bendRangeSemitones && JSON.stringify([a.sound, a.layout]) === JSON.stringify([b.sound, b.layout]);
}
