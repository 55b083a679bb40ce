/**
 * What a channel journal may hold (RFC 6295 appendix A): a chapter for each kind of command. In every log `isOld` is its S bit:
 * it is not of the packet just before.
 */
export interface Chapters {
  /** P: the program, and the bank that it was called from, where one was. */
  program?: { isOld: boolean; program: number; bank: [msb: number, lsb: number] | null };
  /** C: controllers, by number. */
  controllers?: ControllerLog[];
  /** M: registered and other parameters. */
  parameters?: ParameterChapter;
  /** W: 0 to 16383. */
  bend?: { isOld: boolean; bend: number };
  /** N: notes that were begun, and notes that were ended. */
  notes?: { isOld: boolean; begun: NoteLog[]; ended: number[] };
  /** T: pressure of the channel. */
  pressure?: { isOld: boolean; pressure: number };
  /** A: pressure of notes. */
  polyPressures?: { isOld: boolean; note: number; pressure: number }[];
}

/**
 * By its value; by how often it was turned on or off (pedals); by how often it was sent (channel mode, where the value says
 * nothing). Numbers of times are counted up to 63 and begin again.
 */
export interface ControllerLog {
  isOld: boolean;
  controller: number;
  tool: 'value' | 'toggles' | 'count';
  value: number;
}

export interface NoteLog {
  isOld: boolean;
  note: number;
  velocity: number;
  /** It began so lately that it may be played still. */
  mayPlay: boolean;
}

export interface ParameterChapter {
  isOld: boolean;
  /** The last log is of the parameter that is selected now. */
  lastIsSelected: boolean;
  logs: ParameterLog[];
}

export interface ParameterLog {
  isOld: boolean;
  /** A registered parameter, or one of the maker's. */
  registered: boolean;
  /** 14 bits. */
  number: number;
  /** Data entry; null where none was. */
  msb: number | null;
  lsb: number | null;
  /** Steps up less steps down since then; null where none were. */
  steps: number | null;
}

/** Bits of the table of contents, in the order of the chapters. */
const CONTENTS = { P: 0x80, C: 0x40, M: 0x20, W: 0x10, N: 0x08, E: 0x04, T: 0x02, A: 0x01 } as const;
const HIGH = 0x80;
const s = (isOld: boolean) => (isOld ? HIGH : 0);
const isHigh = (byte: number) => (byte & HIGH) !== 0;
const low7 = (byte: number) => byte & 0x7f;
const allOld = (logs: readonly { isOld: boolean }[]) => logs.every(({ isOld }) => isOld);

export function writeChapters(chapters: Chapters): { contents: number; bytes: number[] } {
  const { program, controllers, parameters, bend, notes, pressure, polyPressures } = chapters;
  const bytes: number[] = [];
  let contents = 0;
  if (program) {
    contents |= CONTENTS.P;
    const [msb, lsb] = program.bank ?? [0, 0];
    bytes.push(s(program.isOld) | program.program, (program.bank ? HIGH : 0) | msb, lsb);
  }
  if (controllers) {
    contents |= CONTENTS.C;
    bytes.push(s(allOld(controllers)) | (controllers.length - 1));
    for (const { isOld, controller, tool, value } of controllers) bytes.push(s(isOld) | controller, tool === 'value' ? value : HIGH | (tool === 'count' ? 0x40 : 0) | (value & 0x3f));
  }
  if (parameters) {
    contents |= CONTENTS.M;
    bytes.push(...writeParameters(parameters));
  }
  if (bend) {
    contents |= CONTENTS.W;
    bytes.push(s(bend.isOld) | (bend.bend & 0x7f), bend.bend >> 7);
  }
  if (notes) {
    contents |= CONTENTS.N;
    bytes.push(...writeNotes(notes));
  }
  if (pressure) {
    contents |= CONTENTS.T;
    bytes.push(s(pressure.isOld) | pressure.pressure);
  }
  if (polyPressures) {
    contents |= CONTENTS.A;
    bytes.push(s(allOld(polyPressures)) | (polyPressures.length - 1));
    for (const { isOld, note, pressure } of polyPressures) bytes.push(s(isOld) | note, pressure);
  }
  return { contents, bytes };
}

/** The chapters that a table of contents names; null where they are cut short. Chapter E (release velocities) is passed over. */
export function readChapters(contents: number, bytes: Uint8Array): Chapters | null {
  const reader = new Reader(bytes);
  const chapters: Chapters = {};
  if (contents & CONTENTS.P) {
    const [program, msb, lsb] = [reader.u8(), reader.u8(), reader.u8()];
    chapters.program = { isOld: isHigh(program), program: low7(program), bank: isHigh(msb) ? [low7(msb), low7(lsb)] : null };
  }
  if (contents & CONTENTS.C) {
    chapters.controllers = reader.logs(low7(reader.u8()) + 1, () => {
      const [number, value] = [reader.u8(), reader.u8()];
      const tool = !isHigh(value) ? 'value' : value & 0x40 ? 'count' : 'toggles';
      return { isOld: isHigh(number), controller: low7(number), tool, value: tool === 'value' ? value : value & 0x3f };
    });
  }
  if (contents & CONTENTS.M) {
    const parameters = readParameters(reader);
    if (!parameters) return null;
    chapters.parameters = parameters;
  }
  if (contents & CONTENTS.W) {
    const [first, second] = [reader.u8(), reader.u8()];
    chapters.bend = { isOld: isHigh(first), bend: low7(first) | (low7(second) << 7) };
  }
  if (contents & CONTENTS.N) chapters.notes = readNotes(reader);
  if (contents & CONTENTS.E) reader.skip(2 * (low7(reader.u8()) + 1));
  if (contents & CONTENTS.T) {
    const pressure = reader.u8();
    chapters.pressure = { isOld: isHigh(pressure), pressure: low7(pressure) };
  }
  if (contents & CONTENTS.A) {
    chapters.polyPressures = reader.logs(low7(reader.u8()) + 1, () => {
      const [note, pressure] = [reader.u8(), reader.u8()];
      return { isOld: isHigh(note), note: low7(note), pressure: low7(pressure) };
    });
  }
  return reader.isCut ? null : chapters;
}

/** Of the header of chapter M (appendix A.4): what is in progress, and where all numbers are alike. */
const PENDING = 0x4000;
const SELECTED = 0x2000;
const ALL_REGISTERED = 0x1000;
const ALL_OTHERS = 0x0800;
const ZERO_MSB = 0x0400;
const M_LENGTH = 0x03ff;
/** What a log of it holds. */
const FIELD = { msb: 0x80, lsb: 0x40, steps: 0x20, cButton: 0x10, count: 0x08, byValue: 0x02 } as const;
const STEPS_MOST = 0x3fff;
const DOWN = 0x8000;

function writeParameters({ isOld, lastIsSelected, logs }: ParameterChapter): number[] {
  const body = logs.flatMap(({ isOld, registered, number, msb, lsb, steps }) => {
    const fields = (msb === null ? 0 : FIELD.msb) | (lsb === null ? 0 : FIELD.lsb) | (steps === null ? 0 : FIELD.steps);
    const log = [s(isOld) | (number & 0x7f), (registered ? 0 : HIGH) | (number >> 7), fields | (fields ? FIELD.byValue : 0)];
    if (msb !== null) log.push(msb);
    if (lsb !== null) log.push(lsb);
    if (steps !== null) {
      const size = Math.min(STEPS_MOST, Math.abs(steps)) | (steps < 0 ? DOWN : 0);
      log.push(size >> 8, size & 0xff);
    }
    return log;
  });
  const header = (isOld ? 0x8000 : 0) | (lastIsSelected ? SELECTED : 0) | (body.length + 2);
  return [header >> 8, header & 0xff, ...body];
}

function readParameters(reader: Reader): ParameterChapter | null {
  const header = (reader.u8() << 8) | reader.u8();
  const end = reader.at - 2 + (header & M_LENGTH);
  if (header & PENDING) reader.u8();
  // Where all are of one kind with numbers below 128, that is not said again in each.
  const isShort = (header & ZERO_MSB) !== 0 && (header & (ALL_REGISTERED | ALL_OTHERS)) !== 0;
  const logs: ParameterLog[] = [];
  while (reader.at < end && !reader.isCut) {
    const lsb = reader.u8();
    const msb = isShort ? (header & ALL_REGISTERED ? 0 : HIGH) : reader.u8();
    const fields = reader.u8();
    const log: ParameterLog = { isOld: isHigh(lsb), registered: !isHigh(msb), number: (low7(msb) << 7) | low7(lsb), msb: null, lsb: null, steps: null };
    if (fields & FIELD.msb) log.msb = low7(reader.u8());
    if (fields & FIELD.lsb) log.lsb = low7(reader.u8());
    if (fields & FIELD.steps) {
      const size = (reader.u8() << 8) | reader.u8();
      log.steps = (size & STEPS_MOST) * (size & DOWN ? -1 : 1);
    }
    if (fields & FIELD.cButton) reader.skip(2);
    if (fields & FIELD.count) reader.skip(1);
    logs.push(log);
  }
  return reader.at === end && !reader.isCut ? { isOld: (header & 0x8000) !== 0, lastIsSelected: (header & SELECTED) !== 0, logs } : null;
}

const NOTES = 128;

/** Appendix A.6. The bit fields say which notes ended, eight notes an octet, the lowest in its highest bit. */
function writeNotes({ isOld, begun, ended }: NonNullable<Chapters['notes']>): number[] {
  const fields = new Array<number>(NOTES / 8).fill(0);
  for (const note of ended) fields[note >> 3]! |= HIGH >> (note & 7);
  // No fields: the lowest above the highest. With 128 logs, for which the length has no number, the highest is 0.
  let [lowest, highest] = [15, begun.length === NOTES ? 0 : 1];
  if (ended.length > 0) [lowest, highest] = [Math.min(...ended) >> 3, Math.max(...ended) >> 3];
  return [s(isOld) | Math.min(begun.length, NOTES - 1), (lowest << 4) | highest, ...begun.flatMap(({ isOld, note, velocity, mayPlay }) => [s(isOld) | note, (mayPlay ? HIGH : 0) | velocity]), ...fields.slice(lowest, highest + 1)];
}

function readNotes(reader: Reader): NonNullable<Chapters['notes']> {
  const [header, range] = [reader.u8(), reader.u8()];
  const [lowest, highest] = [range >> 4, range & 0x0f];
  const length = low7(header) === NOTES - 1 && lowest === 15 && highest === 0 ? NOTES : low7(header);
  const begun = reader.logs(length, (): NoteLog => {
    const [note, velocity] = [reader.u8(), reader.u8()];
    return { isOld: isHigh(note), note: low7(note), velocity: low7(velocity), mayPlay: isHigh(velocity) };
  });
  const ended: number[] = [];
  for (let octet = lowest; octet <= highest; octet++) {
    const field = reader.u8();
    for (let bit = 0; bit < 8; bit++) if (field & (HIGH >> bit)) ended.push(8 * octet + bit);
  }
  return { isOld: isHigh(header), begun, ended };
}

/** Reads octets; behind the end it reads zeros, and says so. */
class Reader {
  at = 0;

  constructor(private readonly bytes: Uint8Array) {}

  get isCut(): boolean {
    return this.at > this.bytes.length;
  }

  u8(): number {
    return this.bytes[this.at++] ?? 0;
  }

  skip(octets: number): void {
    this.at += octets;
  }

  logs<Log>(count: number, read: () => Log): Log[] {
    return Array.from({ length: count }, read);
  }
}
