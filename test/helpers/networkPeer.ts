import { createSocket, type Socket } from 'node:dgram';
import type { Flight } from './dissect';

/** What may become of a packet of the stream; shares of all. */
export interface Weather {
  loss: number;
  twice: number;
  late: number;
}

/**
 * Another end of a session of network MIDI, written for the tests alone and apart from the program: bytes are put together and
 * read here by hand (RFC 3550, RFC 6295), its clock runs in 64 bits, and its line may lose, double and delay what it sends.
 * Its journal knows notes, controllers and bends of the first channel.
 */
export class NetworkPeer {
  /** Messages that came, as bytes in hex. */
  readonly heard: string[] = [];
  /** Words of the session that came, on either port. */
  readonly commands: string[] = [];
  /** Every datagram that came and went, for a dissector. */
  readonly flights: Flight[] = [];
  private weather: Weather = { loss: 0, twice: 0, late: 0 };
  private other: { address: string; port: number } | null = null;
  private theirSequence: number | null = null;
  private sequence = 0xfff0;
  private acknowledged = 0xffef;
  private played = 0xffef;
  /** The same weather in every run (Numerical Recipes, quick and dirty generators). */
  private chance = 1;
  private readonly ssrc = 0x5ea11fe7;
  private readonly token = 0x0badcafe;
  private readonly notes = new Map<number, { velocity: number; at: number }>();
  private readonly controllers = new Map<number, { value: number; at: number }>();
  private bend: { value: number; at: number } | null = null;
  /** Takes every so many packets of the other stream for lost. */
  deafTo: (count: number) => boolean = () => false;
  private received = 0;
  /** Whether it says what has arrived; else the journals of the other end tell everything again. */
  feedsBack = true;
  /** Says back whatever it hears. */
  echoes = false;
  /** What the streams of the other end have said of its state: notes by number, from list and journal. */
  readonly sounding = new Set<number>();

  private constructor(
    readonly name: string,
    readonly port: number,
    private readonly control: Socket,
    private readonly data: Socket,
  ) {
    control.on('message', (bytes, from) => this.session(bytes, from, 'control'));
    data.on('message', (bytes, from) => (bytes.readUInt16BE(0) === 0xffff ? this.session(bytes, from, 'data') : this.stream(bytes)));
  }

  static async open(name: string, port: number, address = '127.0.0.2'): Promise<NetworkPeer> {
    const bind = (at: number) =>
      new Promise<Socket>((resolve, reject) => {
        const socket = createSocket('udp4');
        socket.once('error', reject);
        socket.bind(at, address, () => resolve(socket));
      });
    return new NetworkPeer(name, port, await bind(port), await bind(port + 1));
  }

  /** Asks to be let in, once. */
  invite(port: number, address = '127.0.0.2'): void {
    this.other = { address, port };
    this.sendTo('control', this.meeting('IN', this.token));
  }

  /** Leaves, where it is in one; ends when that is said. */
  async bye(): Promise<void> {
    if (this.other) await this.sendTo('control', this.meeting('BY', this.token));
  }

  /** Measures the clocks, as the one who invited does now and then. */
  clockSync(): void {
    const clock = Buffer.alloc(36);
    clock.writeUInt16BE(0xffff, 0);
    clock.write('CK', 2, 'latin1');
    clock.writeUInt32BE(this.ssrc, 4);
    clock.writeBigUInt64BE(BigInt.asUintN(64, this.clock()), 12);
    void this.sendTo('data', clock);
  }

  setWeather(weather: Weather): void {
    this.weather = weather;
  }

  /** Sends one message of the first channel in a packet of its own, with the journal of what is not acknowledged. */
  play(...message: number[]): void {
    const sequence = this.sequence++;
    this.played = sequence;
    const journal = this.journal(sequence);
    this.remember(sequence, message);
    this.stir(this.rtp(sequence, Buffer.from([0x40 | message.length, ...message]), journal, message.length > 0));
  }

  /** Any datagram, as strangers send them. */
  throw(bytes: Buffer, which: 'control' | 'data', port: number, address = '127.0.0.2'): void {
    this[which].send(bytes, which === 'data' ? port + 1 : port, address);
  }

  close(): void {
    this.control.close();
    this.data.close();
  }

  private rtp(sequence: number, section: Buffer, journal: Buffer, marked: boolean): Buffer {
    const header = Buffer.alloc(12);
    header[0] = 0x80;
    header[1] = (marked ? 0x80 : 0) | 97;
    header.writeUInt16BE(sequence & 0xffff, 2);
    header.writeUInt32BE(Number(this.clock() & 0xffffffffn), 4);
    header.writeUInt32BE(this.ssrc, 8);
    return Buffer.concat([header, section, journal]);
  }

  /** A packet that says nothing new. */
  guard(): void {
    const sequence = this.sequence++;
    this.stir(this.rtp(sequence, Buffer.from([0x40]), this.journal(sequence), false));
  }

  get acknowledgedAll(): boolean {
    return this.acknowledged >= this.played;
  }

  private remember(at: number, [status, data1, data2]: number[]): void {
    if (status === 0x90) this.notes.set(data1!, { velocity: data2!, at });
    if (status === 0x80) this.notes.set(data1!, { velocity: 0, at });
    if (status === 0xb0) this.controllers.set(data1!, { value: data2!, at });
    if (status === 0xe0) this.bend = { value: data1! | (data2! << 7), at };
  }

  private journal(sequence: number): Buffer {
    const since = ({ at }: { at: number }) => at > this.acknowledged;
    const controllers = [...this.controllers].filter(([, one]) => since(one)).sort(([a], [b]) => a - b);
    const notes = [...this.notes].filter(([, one]) => since(one));
    const bend = this.bend && since(this.bend) ? this.bend : null;
    const checkpoint = (this.acknowledged + 1) & 0xffff;
    const chapters: number[] = [];
    let contents = 0;
    if (controllers.length > 0) {
      contents |= 0x40;
      chapters.push(controllers.length - 1, ...controllers.flatMap(([number, { value }]) => [number, value]));
    }
    if (bend) {
      contents |= 0x10;
      chapters.push(bend.value & 0x7f, bend.value >> 7);
    }
    if (notes.length > 0) {
      contents |= 0x08;
      const on = notes.filter(([, { velocity }]) => velocity > 0);
      const off = Buffer.alloc(16);
      for (const [note, { velocity }] of notes) if (velocity === 0) off[note >> 3]! |= 0x80 >> (note & 7);
      // All sixteen octets, whatever is in them; one that began in the last five packets may be played.
      chapters.push(on.length, 0x0f, ...on.flatMap(([note, { velocity, at }]) => [note, (sequence - at < 6 ? 0x80 : 0) | velocity]), ...off);
    }
    if (contents === 0) return Buffer.from([0x80, checkpoint >> 8, checkpoint & 0xff]);
    return Buffer.from([0x20, checkpoint >> 8, checkpoint & 0xff, (3 + chapters.length) >> 8, (3 + chapters.length) & 0xff, contents, ...chapters]);
  }

  private random(): number {
    this.chance = (Math.imul(this.chance, 1_664_525) + 1_013_904_223) >>> 0;
    return this.chance / 2 ** 32;
  }

  private stir(packet: Buffer): void {
    const { loss, twice, late } = this.weather;
    const send = () => this.other && this.sendTo('data', packet);
    if (this.random() < loss) return;
    if (this.random() < late) setTimeout(send, 15);
    else send();
    if (this.random() < twice) setTimeout(send, 5);
  }

  private sendTo(which: 'control' | 'data', bytes: Buffer): Promise<void> {
    const { address, port } = this.other!;
    const far = which === 'data' ? port + 1 : port;
    this.flights.push({ from: which === 'data' ? this.port + 1 : this.port, to: far, bytes });
    return new Promise((resolve) => this[which].send(bytes, far, address, () => resolve()));
  }

  /** 64 bits of tenths of milliseconds, far beyond what a number can hold exactly. */
  private clock(): bigint {
    return 0xfedcba9876500000n + BigInt(Math.round(performance.now() * 10));
  }

  private meeting(letters: string, token: number): Buffer {
    const head = Buffer.alloc(16);
    head.writeUInt16BE(0xffff, 0);
    head.write(letters, 2, 'latin1');
    head.writeUInt32BE(2, 4);
    head.writeUInt32BE(token, 8);
    head.writeUInt32BE(this.ssrc, 12);
    return letters === 'BY' ? head : Buffer.concat([head, Buffer.from(`${this.name}\0`)]);
  }

  private session(bytes: Buffer, from: { address: string; port: number }, which: 'control' | 'data'): void {
    const letters = bytes.toString('latin1', 2, 4);
    this.flights.push({ from: from.port, to: which === 'data' ? this.port + 1 : this.port, bytes });
    this.commands.push(letters);
    if (letters === 'IN') {
      this.other = { address: from.address, port: which === 'data' ? from.port - 1 : from.port };
      return void this.sendTo(which, this.meeting('OK', bytes.readUInt32BE(8)));
    }
    if (letters === 'OK' && which === 'control') return void this.sendTo('data', this.meeting('IN', this.token));
    if (letters === 'CK') {
      const count = bytes[8]!;
      if (count > 1) return;
      const answer = Buffer.from(bytes);
      answer.writeUInt32BE(this.ssrc, 4);
      answer[8] = count + 1;
      answer.writeBigUInt64BE(BigInt.asUintN(64, this.clock()), count === 0 ? 20 : 28);
      this.sendTo('data', answer);
    }
    if (letters === 'RS') {
      const low = bytes.readUInt16BE(8);
      const known = this.acknowledged & 0xffff;
      const ahead = (low - known) & 0xffff;
      if (ahead < 0x8000) this.acknowledged += ahead;
    }
  }

  /** Reads a packet of the other end: its list, and after a gap the notes and values of its journal. */
  private stream(bytes: Buffer): void {
    this.received++;
    if (this.deafTo(this.received)) return;
    this.flights.push({ from: this.other!.port + 1, to: this.port + 1, bytes });
    const sequence = bytes.readUInt16BE(2);
    const isNext = this.theirSequence === null || sequence === ((this.theirSequence + 1) & 0xffff);
    this.theirSequence = sequence;
    const isLong = (bytes[12]! & 0x80) !== 0;
    const length = isLong ? ((bytes[12]! & 0x0f) << 8) | bytes[13]! : bytes[12]! & 0x0f;
    const listAt = isLong ? 14 : 13;
    if (!isNext) this.readNotes(bytes.subarray(listAt + length));
    let at = listAt;
    while (at < listAt + length) {
      const status = bytes[at]!;
      const size = status === 0xf0 ? bytes.indexOf(0xf7, at) + 1 - at : status >= 0xf8 ? 1 : (status & 0xe0) === 0xc0 ? 2 : 3;
      const message = bytes.subarray(at, at + size);
      this.heard.push(message.toString('hex'));
      if (this.echoes) this.play(...message);
      if ((status & 0xf0) === 0x90 && message[2]! > 0) this.sounding.add(message[1]!);
      else if ((status & 0xe0) === 0x80) this.sounding.delete(message[1]!);
      // Behind a command stands the delta time of the next: one octet, as all happen at once.
      at += size + 1;
    }
    if (!this.feedsBack) return;
    const feedback = Buffer.alloc(12);
    feedback.writeUInt16BE(0xffff, 0);
    feedback.write('RS', 2, 'latin1');
    feedback.writeUInt32BE(this.ssrc, 4);
    feedback.writeUInt16BE(sequence, 8);
    this.sendTo('control', feedback);
  }

  /** Chapter N of every channel, behind the chapters before it. */
  private readNotes(journal: Buffer): void {
    if (journal.length < 3 || !(journal[0]! & 0x20)) return;
    let at = 3;
    for (let left = (journal[0]! & 0x0f) + 1; left > 0; left--) {
      const length = journal.readUInt16BE(at) & 0x3ff;
      const contents = journal[at + 2]!;
      let chapter = at + 3;
      if (contents & 0x80) chapter += 3;
      if (contents & 0x40) chapter += 1 + 2 * ((journal[chapter]! & 0x7f) + 1);
      if (contents & 0x20) chapter += journal.readUInt16BE(chapter) & 0x3ff;
      if (contents & 0x10) chapter += 2;
      if (contents & 0x08) {
        const count = journal[chapter]! & 0x7f;
        const [low, high] = [journal[chapter + 1]! >> 4, journal[chapter + 1]! & 0x0f];
        for (let i = 0; i < count; i++) if (journal[chapter + 3 + 2 * i]! & 0x80) this.sounding.add(journal[chapter + 2 + 2 * i]! & 0x7f);
        const fields = chapter + 2 + 2 * count;
        for (let octet = low; octet <= high; octet++) for (let bit = 0; bit < 8; bit++) if (journal[fields + octet - low]! & (0x80 >> bit)) this.sounding.delete(8 * octet + bit);
      }
      at += length;
    }
  }
}
