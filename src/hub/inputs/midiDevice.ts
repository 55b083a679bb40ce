import type { DeviceReport } from '../../core/rig/device';
import { describe, hexOf } from '../../core/midi/describe';
import { encode } from '../../core/midi/encode';
import type { MidiMessage } from '../../core/midi/message';
import { MidiSources } from '../../core/midi/sources';
import { StreamParser } from '../../core/midi/streamParser';
import type { MidiThru, MidiThruKind, RigInput } from '../../core/rig/document';
import type { Player } from '../player';
import { hubTimeMs } from '../time';
import type { Device, DeviceWhereabouts, Intake } from './intake';

type MidiInput = Extract<RigInput, { kind: 'midi' }>;

/** How soon it is looked after halves of 14-bit values that wait for their partner. */
const SETTLE_MS = 5;

/** One MIDI input: its bytes become sources, and what its thru says goes straight on. */
export class MidiDevice {
  readonly device: Device;
  private readonly parser = new StreamParser((message) => this.hear(message));
  private readonly sources: MidiSources;
  private timeMs = 0;
  /** Whether the tempo is this device's now. */
  private leads = false;
  private timer: NodeJS.Timeout | null = null;
  /** Notes that went through and have not ended, as `channel note`, and where they went. */
  private readonly through = new Map<string, string>();

  constructor(
    report: Omit<DeviceReport, 'kind'>,
    whereabouts: DeviceWhereabouts,
    private readonly player: Player,
    private readonly intake: Intake,
  ) {
    this.device = intake.connect({ kind: 'midi', ...report }, whereabouts);
    this.sources = new MidiSources((source, timeMs, value) => {
      if (source.key === 'tempo') this.follow(value);
      this.intake.value(this.intake.source(this.device, source), timeMs, value);
    });
  }

  push(bytes: Uint8Array, timeMs: number): void {
    this.timeMs = timeMs;
    this.parser.push(bytes);
    if (this.sources.settle(timeMs)) this.timer ??= setTimeout(this.settle, SETTLE_MS);
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    this.endThrough();
    if (this.leads) this.player.setTempo(null);
    this.intake.disconnect(this.device);
  }

  /** After the rig changed: what went through to where nothing goes through any more is ended. */
  rigChanged(): void {
    const output = this.thru?.output;
    for (const [, to] of this.through) if (to !== output) return this.endThrough();
  }

  private get input(): MidiInput | undefined {
    const input = this.player.rig?.inputs.find(({ id }) => id === this.device.input);
    return input?.kind === 'midi' ? input : undefined;
  }

  private get thru(): MidiThru | undefined {
    return this.input?.thru;
  }

  private follow(bpm: number): void {
    const follows = this.input?.followsClock === true;
    if (follows) this.player.setTempo(bpm);
    else if (this.leads) this.player.setTempo(null);
    this.leads = follows;
  }

  private readonly settle = (): void => {
    this.timer = null;
    if (this.sources.settle(hubTimeMs())) this.timer = setTimeout(this.settle, SETTLE_MS);
  };

  private hear(message: MidiMessage): void {
    const { device, timeMs } = this;
    const bytes = encode(message);
    for (let times = this.player.loops.received(device.report.name, bytes, timeMs); times > 0; times--) {
      this.intake.showRaw(device, () => ({ hubTimeMs: timeMs, text: describe(message), bytes: hexOf(bytes) }));
      this.intake.heard(device, timeMs);
      this.sources.message(message, timeMs);
      this.passOn(message, bytes);
    }
  }

  private passOn(message: MidiMessage, bytes: Uint8Array): void {
    const isNote = message.kind === 'noteOn' || message.kind === 'noteOff';
    const key = isNote ? `${message.channel} ${message.note}` : '';
    const began = message.kind === 'noteOn' && message.velocity > 0;
    const { thru } = this;
    // The end of a note goes where its beginning went, whatever the thru says by now.
    const wentTo = isNote && !began ? this.through.get(key) : undefined;
    const output = wentTo ?? (thru && passes(thru, message) ? thru.output : undefined);
    if (output === undefined || (isNote && !began && wentTo === undefined)) return;
    if (began) this.through.set(key, output);
    else if (isNote) this.through.delete(key);
    this.player.pass(output, bytes);
  }

  private endThrough(): void {
    for (const [key, output] of this.through) {
      const [channel, note] = key.split(' ').map(Number) as [number, number];
      this.player.pass(output, encode({ kind: 'noteOff', channel, note, velocity: 64 }));
    }
    this.through.clear();
  }
}

function passes({ channels, kinds }: MidiThru, message: MidiMessage): boolean {
  if ('channel' in message && !channels.includes(message.channel)) return false;
  const kind = thruKind(message);
  return kind !== null && kinds.includes(kind);
}

function thruKind({ kind }: MidiMessage): MidiThruKind | null {
  switch (kind) {
    case 'noteOn':
    case 'noteOff':
      return 'notes';
    case 'controlChange':
      return 'controllers';
    case 'programChange':
      return 'programs';
    case 'channelPressure':
    case 'polyPressure':
      return 'pressure';
    case 'pitchBend':
      return 'bend';
    case 'clock':
    case 'start':
    case 'continue':
    case 'stop':
    case 'songPosition':
      return 'clock';
    default:
      return null;
  }
}
