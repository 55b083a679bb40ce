import type { SourceReport } from '../inputs/feed';
import { ClockFollower } from '../time/clockFollower';
import { AFTER_RESET, endsAllNotes, holdsNotes, isDataEntry, RESET_CONTROLLERS, RESET_PEDALS, SELECT } from './controllers';
import { noteName } from './describe';
import { PAIR_MS } from './halves';
import { BEND_CENTRE, type MidiMessage } from './message';
import { SelectedParameters } from './selectedParameters';

/** After so many halves that stayed alone a controller counts as plain and waits no more. */
const LONE = 3;
const CHANNELS = 16;
/** A step of the coarse half. */
const COARSE = 128;
/** Bend range, fine tuning, coarse tuning, tuning program and bank: of these it is said which half a step moves. */
const LAST_NAMED_RPN = 4;
const BEND_RANGE_RPN = 0;
const FINE_RPNS: readonly number[] = [BEND_RANGE_RPN, 1];
/** The fine half of a bend range counts them. */
const CENTS = 100;

/** @param isBack what was said before is let go of or put back, and nothing came that says it */
export type SourceListener = (source: SourceReport, timeMs: number, value: number, isBack: boolean) => void;

/** What a source said last. */
interface Last {
  source: SourceReport;
  value: number;
}

/** A coarse half that waits for its fine one. */
interface Waiting {
  msb: number;
  timeMs: number;
}

/** One controller or parameter whose value may come in one half or two. */
interface Halves {
  source: (fine: boolean) => SourceReport;
  msb: number;
  msbMs: number;
  waiting: Waiting | null;
  /** Whether a partner was ever seen, and how many halves in a row stayed alone. */
  fine: boolean;
  lone: number;
}

/**
 * Turns the messages of a MIDI input into sources and their values: notes, controllers, bends, pressures, programs, tempo
 * and transport. A controller 0-31 that is followed by its partner 32 higher counts as one of 14 bits, and 99/98 or
 * 101/100 with data entry 6/38 and steps 96/97 as a parameter (MIDI 1.0 Detailed Specification, control change messages). Because the
 * first half of a pair could also be a whole value, it waits a moment for its partner: call `settle` until nothing waits.
 * What ends all notes lets go of their gates, and what resets all controllers puts back those that it names.
 */
export class MidiSources {
  private readonly halves = new Map<string, Halves>();
  private readonly selected = new SelectedParameters();
  private readonly follower = new ClockFollower();
  /** By key. */
  private readonly last = new Map<string, Last>();

  constructor(private readonly listener: SourceListener) {}

  message(message: MidiMessage, timeMs: number): void {
    switch (message.kind) {
      case 'noteOn':
        return this.note(message.channel, message.note, message.velocity, timeMs);
      case 'noteOff':
        return this.note(message.channel, message.note, 0, timeMs);
      case 'controlChange':
        return this.controller(message.channel, message.controller, message.value, timeMs);
      case 'pitchBend':
        return this.emit({ key: `bend ${message.channel}`, name: `Bend, channel ${message.channel}`, ...continuous(-1, 1), rest: 0 }, timeMs, bendLevel(message.bend));
      case 'channelPressure':
        return this.emit({ key: `pressure ${message.channel}`, name: `Pressure, channel ${message.channel}`, ...continuous(0, 127) }, timeMs, message.pressure);
      case 'polyPressure': {
        const { channel, note, pressure } = message;
        return this.emit({ key: `poly ${channel} ${note}`, name: `Pressure of ${noteName(note)}, channel ${channel}`, ...continuous(0, 127) }, timeMs, pressure);
      }
      case 'programChange':
        return this.emit({ key: `program ${message.channel}`, name: `Program, channel ${message.channel}`, ...continuous(1, 128) }, timeMs, message.program + 1);
      case 'clock':
        return this.clock(timeMs);
      case 'start':
      case 'continue':
        return this.emit(RUNNING, timeMs, 1);
      case 'stop':
        return this.emit(RUNNING, timeMs, 0);
      case 'reset':
        for (let channel = 1; channel <= CHANNELS; channel++) {
          this.endNotes(channel, timeMs);
          this.reset(channel, timeMs);
        }
        return;
      default:
        return;
    }
  }

  /** Lets go of halves whose partner did not come. True while some still wait. */
  settle(timeMs: number): boolean {
    let waits = false;
    for (const halves of this.halves.values()) {
      const { waiting } = halves;
      if (!waiting) continue;
      if (timeMs - waiting.timeMs < PAIR_MS) waits = true;
      else this.release(halves);
    }
    return waits;
  }

  /** The device went: what would have sprung back by itself does. Wheels, faders and whatever else stays where it was put stay. */
  letGo(timeMs: number): void {
    for (const { source, value } of this.last.values()) if (value !== 0 && springsBack(source)) this.emit(source, timeMs, 0, true);
  }

  private note(channel: number, note: number, velocity: number, timeMs: number): void {
    if (velocity > 0) this.emit({ key: `number ${channel}`, name: `Last note, channel ${channel}`, ...continuous(0, 127) }, timeMs, note);
    this.emit({ key: `note ${channel} ${note}`, name: `${noteName(note)}, channel ${channel}`, ...GATE }, timeMs, velocity / 127);
  }

  private controller(channel: number, controller: number, value: number, timeMs: number): void {
    if (this.selected.hear(channel, controller, value)) return;
    if (endsAllNotes(controller)) this.endNotes(channel, timeMs);
    if (controller === RESET_CONTROLLERS) this.reset(channel, timeMs);
    const parameter = this.selected.of(channel);
    if (parameter && isDataEntry(controller)) {
      const { registered, number } = parameter;
      const kind = registered ? 'rpn' : 'nrpn';
      const source: SourceReport = { key: `${kind} ${channel} ${number}`, name: `${kind.toUpperCase()} ${number}, channel ${channel}`, ...continuous(0, 16383) };
      if (controller === SELECT.up || controller === SELECT.down) return this.step(source, registered ? number : null, controller === SELECT.up, timeMs);
      return this.half(source.key, () => source, controller === SELECT.dataMsb, value, timeMs);
    }
    if (controller >= 64) return this.emit(plain(channel, controller), timeMs, value);
    const coarse = controller & 31;
    this.half(`cc ${channel} ${coarse}`, (fine) => (fine ? wide(channel, coarse) : plain(channel, coarse)), controller < 32, value, timeMs, () =>
      this.emit(plain(channel, controller), timeMs, value),
    );
  }

  private endNotes(channel: number, timeMs: number): void {
    for (const { source, value } of this.last.values()) if (value > 0 && source.key.startsWith(`note ${channel} `)) this.emit(source, timeMs, 0, true);
  }

  private reset(channel: number, timeMs: number): void {
    this.selected.forget(channel);
    for (const halves of this.halves.values()) this.release(halves);
    for (const { source, value } of this.last.values()) {
      const rest = afterReset(source, channel);
      if (rest !== null && value !== rest) this.emit(source, timeMs, rest, true);
    }
    for (const [controller, share] of AFTER_RESET) {
      const halves = this.halves.get(`cc ${channel} ${controller}`);
      if (halves) halves.msb = 127 * share;
    }
  }

  /** One half of a value. `alone` is told of a fine half that no coarse one went before. */
  private half(key: string, source: Halves['source'], isCoarse: boolean, value: number, timeMs: number, alone?: () => void): void {
    let halves = this.halves.get(key);
    if (!halves) {
      if (!isCoarse) return alone?.();
      halves = { source, msb: value, msbMs: timeMs, waiting: null, fine: false, lone: 0 };
      this.halves.set(key, halves);
    }
    if (isCoarse) {
      if (halves.waiting) this.release(halves);
      halves.msb = value;
      halves.msbMs = timeMs;
      halves.waiting = { msb: value, timeMs };
      if (!halves.fine && halves.lone >= LONE) this.release(halves);
      return;
    }
    // The fine half alone moves a value of 14 bits on; without one it is a controller of its own.
    if (!halves.fine && timeMs - halves.msbMs >= PAIR_MS) return alone?.();
    halves.waiting = null;
    halves.fine = true;
    this.emit(source(true), timeMs, (halves.msb << 7) | value);
  }

  /**
   * A parameter goes a step up or down (MIDI 1.0, controllers 96 and 97). Which half it is that moves: MMA RP-018 (from memory); one that
   * nothing is said of there moves by the finest half that it was told.
   * @param registered the number of a registered parameter, null for others
   */
  private step(source: SourceReport, registered: number | null, up: boolean, timeMs: number): void {
    const halves = this.halves.get(source.key);
    if (halves) this.release(halves);
    const before = this.last.get(source.key)?.value ?? 0;
    const isFine = registered !== null && registered <= LAST_NAMED_RPN ? FINE_RPNS.includes(registered) : halves?.fine === true;
    let value = before + (isFine ? 1 : COARSE) * (up ? 1 : -1);
    if (registered === BEND_RANGE_RPN && value % COARSE >= CENTS) value = (value >> 7) * COARSE + (up ? COARSE : CENTS - 1);
    value = Math.min(16383, Math.max(0, value));
    if (halves) halves.msb = value >> 7;
    this.emit(source, timeMs, value);
  }

  private release(halves: Halves): void {
    const { waiting, source, fine } = halves;
    if (!waiting) return;
    halves.waiting = null;
    halves.lone++;
    const report = source(fine);
    // A coarse half alone stands for a fine one of 0 (MIDI 1.0).
    this.emit(report, waiting.timeMs, report.range[1] > 127 ? waiting.msb << 7 : waiting.msb);
  }

  private clock(timeMs: number): void {
    const bpm = this.follower.clock(timeMs);
    if (!Number.isNaN(bpm)) this.emit({ key: 'tempo', name: 'Tempo of the clock', ...continuous(20, 400) }, timeMs, bpm);
  }

  private emit(source: SourceReport, timeMs: number, value: number, isBack = false): void {
    const last = this.last.get(source.key);
    if (last) last.value = value;
    else this.last.set(source.key, { source, value });
    this.listener(source, timeMs, value, isBack);
  }
}

/** Whether it is bend, pressure or a pedal: nobody holds it any more where the device is gone. */
function springsBack({ key }: SourceReport): boolean {
  const [kind, , number] = key.split(' ');
  const pedal = kind === 'cc' ? Number(number) : NaN;
  return kind === 'bend' || kind === 'pressure' || kind === 'poly' || holdsNotes(pedal) || (RESET_PEDALS as readonly number[]).includes(pedal);
}

/** Where a reset of all controllers of a channel puts a source (MMA RP-015); null where it leaves it alone. */
function afterReset({ key, range }: SourceReport, channel: number): number | null {
  const [kind, of, number] = key.split(' ');
  if (Number(of) !== channel) return null;
  if (kind === 'bend' || kind === 'pressure' || kind === 'poly') return 0;
  const share = kind === 'cc' || kind === 'cc14' ? AFTER_RESET.get(Number(number)) : undefined;
  return share === undefined ? null : share * range[1];
}

const GATE = { kind: 'gate', unit: 'unit', range: [0, 1] } satisfies Partial<SourceReport>;
const RUNNING: SourceReport = { key: 'running', name: 'Running', kind: 'gate', unit: 'unit', range: [0, 1] };

function continuous(lo: number, hi: number): Pick<SourceReport, 'kind' | 'unit' | 'range'> {
  return { kind: 'continuous', unit: hi > 1 ? 'count' : 'unit', range: [lo, hi] };
}

const plain = (channel: number, controller: number): SourceReport => ({ key: `cc ${channel} ${controller}`, name: `CC ${controller}, channel ${channel}`, ...continuous(0, 127) });
const wide = (channel: number, controller: number): SourceReport => ({
  key: `cc14 ${channel} ${controller}`,
  name: `CC ${controller} and ${controller + 32}, channel ${channel}`,
  ...continuous(0, 16383),
});

/** -1 to 1 with the centre at 0: there are 8192 steps below it and 8191 above. */
function bendLevel(bend: number): number {
  const away = bend - BEND_CENTRE;
  return away < 0 ? away / BEND_CENTRE : away / (BEND_CENTRE - 1);
}
