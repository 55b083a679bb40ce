import { FIRST_MODE } from '../midi/controllers';
import { STATUS } from '../midi/message';
import { ChannelMemory, ITEM, parameterItem, UNKNOWN } from './channelMemory';
import type { Chapters, ControllerLog, ParameterLog } from './chapters';
import type { ChannelJournal, Journal } from './journal';

const CHANNELS = 16;
/** A note that began longer ago is not played any more when only a journal tells of it: it would come out of time. */
const PLAY_MS = 200;
/** With so many logs of parameters all chapters of a channel are sure to fit into the 10 bits of its length. */
const PARAMETERS_MOST = 30;

interface Changed {
  /** By the count of packets, not modulo anything. */
  packet: number;
  atMs: number;
}

class Channel {
  /** What changed since the checkpoint, by item, the latest last. */
  readonly changed = new Map<number, Changed>();
  readonly memory = new ChannelMemory(
    (item) => {
      this.changed.delete(item);
      this.changed.set(item, { packet: this.packet, atMs: this.atMs });
    },
    (item) => void this.changed.delete(item),
  );
  packet = 0;
  atMs = 0;
}

/**
 * What a stream has said since the last packet that its receiver is known to have: the recovery journal of the next packet.
 * Only that knowledge makes it shorter (RFC 6295 section 5, closed-loop policy), so that a journal is enough however many
 * packets were lost.
 */
export class JournalHistory {
  private readonly channels = new Map<number, Channel>();
  private acknowledged: number;

  /** @param before the packet before the first, by its count */
  constructor(before: number) {
    this.acknowledged = before;
  }

  /** Takes in what goes out with a packet. */
  sent(packet: number, command: Uint8Array, atMs: number): void {
    const [status] = command as unknown as [number];
    if (status >= STATUS.sysEx) return;
    let channel = this.channels.get(status & 0x0f);
    if (!channel) this.channels.set(status & 0x0f, (channel = new Channel()));
    channel.packet = packet;
    channel.atMs = atMs;
    channel.memory.take(command);
  }

  /** The receiver has everything up to this packet. */
  has(packet: number): void {
    if (packet <= this.acknowledged) return;
    this.acknowledged = packet;
    for (const { changed } of this.channels.values()) {
      for (const [item, at] of changed) {
        if (at.packet > packet) break;
        changed.delete(item);
      }
    }
  }

  /** Whether the receiver may lack something that a journal would tell. */
  get hasUntold(): boolean {
    return [...this.channels.values()].some(({ changed }) => changed.size > 0);
  }

  /** The journal that goes out with a packet: what changed since the checkpoint and before it. */
  journal(packet: number, nowMs: number): Journal {
    const channels: ChannelJournal[] = [];
    for (let number = 0; number < CHANNELS; number++) {
      const channel = this.channels.get(number);
      if (channel && channel.changed.size > 0) channels.push({ channel: number, ...journalOf(channel, packet - 1, nowMs) });
    }
    return { isOld: channels.every(({ isOld }) => isOld), checkpoint: (this.acknowledged + 1) & 0xffff, channels };
  }
}

function journalOf({ memory, changed }: Channel, before: number, nowMs: number): Chapters & { isOld: boolean } {
  const chapters: Chapters & { isOld: boolean } = { isOld: true };
  const [controllers, parameters]: [ControllerLog[], ParameterLog[]] = [[], []];
  const [begun, ended, polyPressures]: [NonNullable<Chapters['notes']>['begun'], number[], NonNullable<Chapters['polyPressures']>] = [[], [], []];
  let anEndIsNew = false;
  for (const [item, { packet, atMs }] of changed) {
    const isOld = packet !== before;
    if (!isOld) chapters.isOld = false;
    const which = item & 0xfff;
    if (item >= ITEM.parameter) {
      const { registered, number, msb, lsb, steps } = memory.parameters.get(item)!;
      parameters.push({ isOld, registered, number, msb, lsb, steps });
    } else if (item >= ITEM.polyPressure) polyPressures.push({ isOld, note: which, pressure: memory.polyPressures[which]! });
    else if (item >= ITEM.note) {
      const velocity = memory.notes[which]!;
      if (velocity > 0) begun.push({ isOld, note: which, velocity, mayPlay: nowMs - atMs < PLAY_MS });
      else {
        ended.push(which);
        anEndIsNew ||= !isOld;
      }
    } else if (item >= ITEM.controller) controllers.push({ isOld, controller: which, tool: which >= FIRST_MODE ? 'count' : 'value', value: memory.controllers[which]! });
    else if (item === ITEM.program) chapters.program = { isOld, program: memory.program, bank: memory.bank[0] === UNKNOWN && memory.bank[1] === UNKNOWN ? null : [Math.max(0, memory.bank[0]), Math.max(0, memory.bank[1])] };
    else if (item === ITEM.bend) chapters.bend = { isOld, bend: memory.bend };
    else if (item === ITEM.pressure) chapters.pressure = { isOld, pressure: memory.pressure };
  }
  if (controllers.length > 0) chapters.controllers = controllers;
  if (begun.length + ended.length > 0) chapters.notes = { isOld: !anEndIsNew, begun, ended };
  if (polyPressures.length > 0) chapters.polyPressures = polyPressures;
  const selection = changed.get(ITEM.selected);
  if (parameters.length > 0 || selection) chapters.parameters = parameterChapter(memory, parameters.slice(-PARAMETERS_MOST), selection ? selection.packet !== before : true);
  return chapters;
}

/** The parameter that is selected comes last, also where nothing was entered for it. */
function parameterChapter({ selected, parameters }: ChannelMemory, logs: ParameterLog[], isOld: boolean): NonNullable<Chapters['parameters']> {
  const isSelected = ({ registered, number }: ParameterLog) => parameterItem(registered, number) === selected;
  const ordered = logs.filter((log) => !isSelected(log));
  const last = logs.find(isSelected) ?? (selected === UNKNOWN ? null : { isOld, ...parameters.get(selected)!, msb: null, lsb: null, steps: null });
  if (last) ordered.push(last);
  return { isOld: isOld && ordered.every((log) => log.isOld), lastIsSelected: last !== null, logs: ordered };
}
