import { FIRST_MODE, NULL_HALF, SELECT } from '../midi/controllers';
import { STATUS } from '../midi/message';
import { ChannelMemory, parameterItem, UNKNOWN } from './channelMemory';
import type { Chapters, ControllerLog, ParameterLog } from './chapters';
import type { Journal } from './journal';

const CHANNELS = 16;
const RELEASE_VELOCITY = 64;
/** From here on a pedal is on (MIDI 1.0). */
const ON = 64;
const STEPS_MOST = 127;

/**
 * What a receiver knows of a stream, and what it must be told where packets were lost: the commands that lead from what it
 * knows to what a journal says. Saying the same journal twice repairs nothing twice.
 */
export class HeardState {
  private readonly channels = Array.from({ length: CHANNELS }, () => new ChannelMemory());

  /** A command came. */
  heard(command: Uint8Array): void {
    if (command[0]! < STATUS.sysEx) this.channels[command[0]! & 0x0f]!.take(command);
  }

  /**
   * The commands that are missing, in the order in which they may be played: what resets, programs and their banks,
   * controllers, parameters, bend and pressure, ends of notes, notes.
   */
  repair({ channels }: Journal): Uint8Array[] {
    return channels.flatMap(({ channel, ...chapters }) => this.repairChannel(channel, chapters));
  }

  /** Ends whatever sounds: packets were lost, and no journal says what they ended. */
  endNotes(): Uint8Array[] {
    const said: Uint8Array[] = [];
    this.channels.forEach((memory, channel) => {
      memory.notes.forEach((velocity, note) => {
        if (velocity > 0) said.push(Uint8Array.of(STATUS.noteOff | channel, note, RELEASE_VELOCITY));
      });
      memory.notes.fill(0);
    });
    return said;
  }

  private repairChannel(channel: number, { program, controllers = [], parameters, bend, notes, pressure, polyPressures = [] }: Chapters): Uint8Array[] {
    const memory = this.channels[channel]!;
    const said: Uint8Array[] = [];
    const say = (status: number, ...data: number[]) => {
      const command = Uint8Array.of(status | channel, ...data);
      memory.take(command);
      said.push(command);
    };
    const change = (controller: number, value: number) => say(STATUS.controlChange, controller, value);
    for (const log of controllers) if (log.controller >= FIRST_MODE && isBehind(memory, log)) change(log.controller, 0);
    // A mode message that came several times is played once; how often it came counts all the same.
    for (const { controller, tool, value } of controllers) if (controller >= FIRST_MODE && tool === 'count') memory.controllers[controller] = value;
    if (program && !hasProgram(memory, program)) {
      if (program.bank) {
        change(0, program.bank[0]);
        change(32, program.bank[1]);
      }
      say(STATUS.programChange, program.program);
    }
    for (const log of controllers) {
      const value = log.controller < FIRST_MODE ? missingValue(memory, log) : null;
      if (value !== null) change(log.controller, value);
    }
    if (parameters) this.repairParameters(memory, parameters.logs, parameters.lastIsSelected, change);
    if (bend && memory.bend !== bend.bend) say(STATUS.pitchBend, bend.bend & 0x7f, bend.bend >> 7);
    if (pressure && memory.pressure !== pressure.pressure) say(STATUS.channelPressure, pressure.pressure);
    for (const note of notes?.ended ?? []) if (memory.notes[note]! > 0) say(STATUS.noteOff, note, RELEASE_VELOCITY);
    for (const { note, velocity, mayPlay } of notes?.begun ?? []) {
      if (!mayPlay || memory.notes[note] === velocity) continue;
      // It was ended and begun again.
      if (memory.notes[note]! > 0) say(STATUS.noteOff, note, RELEASE_VELOCITY);
      say(STATUS.noteOn, note, velocity);
    }
    for (const log of polyPressures) if (memory.polyPressures[log.note] !== log.pressure) say(STATUS.polyPressure, log.note, log.pressure);
    return said;
  }

  private repairParameters(memory: ChannelMemory, logs: readonly ParameterLog[], lastIsSelected: boolean, change: (controller: number, value: number) => void): void {
    const select = ({ registered, number }: Pick<ParameterLog, 'registered' | 'number'>) => {
      if (memory.selected === parameterItem(registered, number)) return;
      change(registered ? SELECT.rpnMsb : SELECT.nrpnMsb, number >> 7);
      change(registered ? SELECT.rpnLsb : SELECT.nrpnLsb, number & 0x7f);
    };
    const before = memory.selected;
    for (const log of logs) {
      const known = memory.parameters.get(parameterItem(log.registered, log.number));
      const msb = log.msb !== null && known?.msb !== log.msb;
      const lsb = log.lsb !== null && (msb || known?.lsb !== log.lsb);
      const steps = (log.steps ?? 0) - (msb || lsb ? 0 : (known?.steps ?? 0));
      if (!msb && !lsb && steps === 0) continue;
      select(log);
      if (msb) change(SELECT.dataMsb, log.msb!);
      if (lsb) change(SELECT.dataLsb, log.lsb!);
      for (let left = Math.min(STEPS_MOST, Math.abs(steps)); left > 0; left--) change(steps > 0 ? SELECT.up : SELECT.down, 0);
    }
    const last = logs[logs.length - 1];
    if (lastIsSelected && last) select(last);
    else if (!lastIsSelected && (memory.selected !== UNKNOWN || before !== UNKNOWN)) {
      change(SELECT.rpnMsb, NULL_HALF);
      change(SELECT.rpnLsb, NULL_HALF);
    }
  }
}

/** Whether a channel mode message came more often than is known. Sent by its value alone it cannot be told from one that was heard. */
function isBehind(memory: ChannelMemory, { controller, tool, value }: ControllerLog): boolean {
  return tool === 'count' && Math.max(0, memory.controllers[controller]!) !== value;
}

/** The value that a controller must be sent; null where it has it. */
function missingValue(memory: ChannelMemory, { controller, tool, value }: ControllerLog): number | null {
  const known = memory.controllers[controller]!;
  if (tool === 'value') return known === value ? null : value;
  // A pedal that was turned an odd number of times is on; how often any other came says nothing that could be repaired.
  if (tool === 'count') return null;
  const isOn = value % 2 === 1;
  return known >= ON === isOn ? null : isOn ? 127 : 0;
}

function hasProgram(memory: ChannelMemory, { program, bank }: NonNullable<Chapters['program']>): boolean {
  return memory.program === program && (!bank || (Math.max(0, memory.bank[0]) === bank[0] && Math.max(0, memory.bank[1]) === bank[1]));
}
