import type { Held } from '../../ensemble/kind';
import type { EnsembleMemory, Heard } from './memory';

/** So many voices of a stream are followed; more say nothing. */
const HELD_MOST = 64;
const USUAL_STRIKE = 100 / 127;
/** The sustain pedal and from where it is down (MIDI 1.0, controller 64). */
const SUSTAIN = 64;
const DOWN = 64;

/** What is held on the streams that members listen to, by fingers or by the sustain pedal alone; tells who listens what begins and ends. */
export class HeldVoices {
  constructor(
    private readonly memory: () => Pick<EnsembleMemory, 'held' | 'sustained'>,
    private readonly tell: (stream: number, held: Held, on: boolean) => void,
  ) {}

  /** Before a voice begins: one of its number ends, and one of its key that the pedal alone holds. */
  giveWay(stream: number, voice: number, pitch: number): void {
    for (const before of this.held(stream).filter((other) => other.voice === voice || (other.lifted && other.pitch === pitch))) this.end(stream, before);
  }

  on(stream: number, voice: number, pitch: number, strike: number): void {
    const held = this.held(stream);
    // The oldest that the pedal alone holds makes room; fingers do not.
    const oldest = held.length >= HELD_MOST && held.find(({ lifted }) => lifted);
    if (oldest) this.end(stream, oldest);
    if (held.length >= HELD_MOST) return;
    const begins = { voice, pitch, strike: Number.isNaN(strike) ? USUAL_STRIKE : strike, lifted: false };
    held.push(begins);
    this.tell(stream, begins, true);
  }

  off(stream: number, voice: number): void {
    const ends = this.held(stream).find((other) => other.voice === voice);
    if (!ends) return;
    if (this.memory().sustained[stream]) ends.lifted = true;
    else this.end(stream, ends);
  }

  /** Under the sustain pedal what was held is heard on. @param value 0 to 127 */
  pedal(stream: number, controller: number, value: number): void {
    const { sustained } = this.memory();
    if (controller !== SUSTAIN || sustained[stream] === undefined) return;
    sustained[stream] = Number(value >= DOWN);
    if (!sustained[stream]) for (const voice of this.held(stream).filter(({ lifted }) => lifted)) this.end(stream, voice);
  }

  endStream(stream: number): void {
    this.pedal(stream, SUSTAIN, 0);
    for (const voice of [...this.held(stream)]) this.end(stream, voice);
  }

  /** Everything was silenced by others: nobody is told. */
  forget(): void {
    const { held, sustained } = this.memory();
    for (const of of held) of.length = 0;
    sustained.fill(0);
  }

  private held(stream: number): Heard[] {
    return this.memory().held[stream] ?? [];
  }

  private end(stream: number, voice: Heard): void {
    const held = this.held(stream);
    held.splice(held.indexOf(voice), 1);
    this.tell(stream, voice, false);
  }
}
