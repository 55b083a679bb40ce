import type { Engine } from '../core/engine/engine';
import { AT, LIFE, LIVES, lifeAt } from '../core/engine/voices/memory';
import type { MappingStates } from '../protocol/live';
import type { MemberShown } from '../protocol/transport';
import type { ShownVoice } from '../protocol/voiceFrames';
import type { Audience } from './audience';
import type { PlanNumbers } from './planNumbers';
import type { StandsBy } from './standing';
import { hubTimeMs } from './time';
import type { LiveState, Watcher } from './watcher';

const SOON_MS = 1;
/** As the number of a signal where no page sent one. */
const NOBODY_SENT = -1;

/** What can be seen of the rig that plays, by hub numbers: values, levels, voices, members; and who is told when they move. */
export class Shown implements LiveState {
  dueMs = Infinity;
  /** By hub number: when the level of a mapping was computed last, 0 for never. */
  private readonly heardMs: number[] = [];
  private tellsSoon = false;
  private wasOn = '';

  constructor(
    private readonly numbers: PlanNumbers,
    private readonly audience: Audience,
    private readonly engine: () => Engine | null,
    /** Told of every level that was computed, by the place of its mapping. */
    private readonly levelMoved: (mapping: number, level: number) => void,
    private readonly standsBy: StandsBy,
  ) {}

  /** These mappings are gone, and their numbers may mean others. */
  forget(mappings: readonly number[]): void {
    for (const number of mappings) delete this.heardMs[number];
  }

  /** What the members of the ensemble do, where that is something new since the last call or `anyway`; else null. */
  members(anyway: boolean): MemberShown[] | null {
    const engine = this.engine();
    if (!engine || !(anyway || engine.movedMembers)) return null;
    if (!anyway) engine.movedMembers = false;
    return engine.ensemble.shown();
  }

  /** Whether other mappings or members are on than when this was asked last. */
  switched(): boolean {
    const engine = this.engine();
    const isOn = engine ? `${engine.on.join('')} ${engine.voices.on.join('')} ${engine.plan.ensemble.members.map((_, i) => Number(engine.ensemble.isSwitchedOn(i))).join('')}` : '';
    if (isOn === this.wasOn) return false;
    this.wasOn = isOn;
    return true;
  }

  get mappingStates(): MappingStates {
    const engine = this.engine();
    const nowMs = hubTimeMs();
    const { mappingNumbers, voiceNumbers } = this.numbers;
    const all = [...mappingNumbers, ...voiceNumbers];
    return {
      numbers: all,
      heardMsAgo: all.map((number) => (this.heardMs[number] ? Math.round(nowMs - this.heardMs[number]) : -1)),
      sends: all.map((_, i) => Boolean(i < mappingNumbers.length ? engine?.on[i] : engine?.voices.on[i - mappingNumbers.length])),
      alone: (engine?.plan.rig.outputs ?? []).flatMap(({ receiver }, output) => (engine?.voices.alone[output] ? [receiver] : [])),
      membersOff: (engine?.plan.ensemble.members ?? []).flatMap(({ rig: { id } }, i) => (engine?.ensemble.isSwitchedOn(i) ? [] : [id])),
      scene: this.standsBy.scene,
    };
  }

  /** By hub number; a signal that never moved shows its rest. NaN where there is none of this number. */
  signalValue(number: number): number {
    const index = this.numbers.signalIndex(number);
    const engine = this.engine();
    if (index === undefined || !engine) return NaN;
    const value = engine.values[index]!;
    return Number.isNaN(value) ? engine.plan.signalRest[index]! : value;
  }

  /** The hub numbers of the signals that have a value of their own by now. */
  movedSignals(): number[] {
    const engine = this.engine();
    return this.numbers.signalNumbers.filter((_, index) => !Number.isNaN(engine?.values[index] ?? NaN));
  }

  mappingLevel(number: number): number {
    const index = this.numbers.mappingIndex(number);
    return index === undefined ? NaN : (this.engine()?.levels[index] ?? NaN);
  }

  /** What sounds of a voice mapping, by hub number. */
  soundingVoices(number: number): ShownVoice[] {
    const v = this.numbers.voiceIndex(number);
    const engine = this.engine();
    if (v === undefined || !engine) return [];
    const { life, voice, at } = engine.voices;
    return Array.from({ length: LIVES }, (_, i) => v * LIVES + i)
      .filter((place) => life[place] === LIFE.sounding)
      .map((place) => {
        const here = lifeAt(place);
        return { voice: voice[place]! & 0xffff, pitch: at[here + AT.sounds]!, strike: at[here + AT.strike]!, pressure: at[here + AT.pressure]!, slide: at[here + AT.slide]! };
      });
  }

  /** What came in bulk, from sensors, is shown together: at the next turn there might be no more than one number of it. */
  soon(): void {
    if (this.tellsSoon) return;
    this.tellsSoon = true;
    setTimeout(() => {
      this.tellsSoon = false;
      this.tell();
    }, SOON_MS);
  }

  /** Tells the watchers where every signal is; one of them knows. */
  tellSignals(knows: Watcher): void {
    for (const number of this.numbers.signalNumbers) this.audience.signalMoved(number, knows);
  }

  /** Tells the watchers what moved; the page that sent a value is not told its own. @param sent the number of a signal that a page sent */
  tell(sent = NOBODY_SENT, from: Watcher | null = null): void {
    const engine = this.engine()!;
    const { movedMappings, movedSignals, movedVoices } = engine;
    const heardMs = movedMappings.size > 0 ? hubTimeMs() : 0;
    for (let i = 0; i < movedMappings.size; i++) {
      const number = this.numbers.mappingNumber(movedMappings.at(i));
      this.heardMs[number] = heardMs;
      this.levelMoved(movedMappings.at(i), engine.levels[movedMappings.at(i)]!);
      this.audience.mappingMoved(number);
    }
    for (let i = 0; i < movedSignals.size; i++) {
      const number = this.numbers.signalNumber(movedSignals.at(i));
      this.audience.signalMoved(number, number === sent ? from : null);
    }
    for (let i = 0; i < movedVoices.size; i++) {
      const number = this.numbers.voiceNumbers[movedVoices.at(i)]!;
      this.heardMs[number] = hubTimeMs();
      this.audience.voicesMoved(number);
    }
    movedMappings.clear();
    movedSignals.clear();
    movedVoices.clear();
  }
}
