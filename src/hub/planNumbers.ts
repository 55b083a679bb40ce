import type { Plan } from '../core/engine/plan';
import { VOICE_BASE } from '../core/engine/sink';
import { Numbering } from './numbering';

/** Signals, streams, mappings and, among these, voice mappings go by hub numbers on the outside, which stay, and by plan indices on the inside, which an edit may move. */
export class PlanNumbers {
  readonly signals = new Numbering();
  /** Voice mappings too: their ids are unlike those of mappings. */
  readonly mappings = new Numbering();
  readonly streams = new Numbering();
  private readonly signalAt: number[] = [];
  private readonly mappingAt: number[] = [];
  private readonly voiceAt: number[] = [];
  private readonly streamAt: number[] = [];
  private ofSignals: number[] = [];
  private ofMappings: number[] = [];
  private ofVoices: number[] = [];
  private numbered: Plan | null = null;
  private numberedSignals: readonly string[] | null = null;

  /** The hub numbers of the mappings of the plan, in their order. */
  get mappingNumbers(): readonly number[] {
    return this.ofMappings;
  }

  get signalNumbers(): readonly number[] {
    return this.ofSignals;
  }

  signalIndex(number: number): number | undefined {
    return this.signalAt[number];
  }

  mappingIndex(number: number): number | undefined {
    return this.mappingAt[number];
  }

  streamIndex(number: number): number | undefined {
    return this.streamAt[number];
  }

  /** The hub numbers of the voice mappings of the plan, in their order. */
  get voiceNumbers(): readonly number[] {
    return this.ofVoices;
  }

  /** The place of a voice mapping among those of the plan. */
  voiceIndex(number: number): number | undefined {
    return this.voiceAt[number];
  }

  signalNumber(index: number): number {
    return this.ofSignals[index]!;
  }

  mappingNumber(index: number): number {
    return this.ofMappings[index]!;
  }

  /** The hub number of the mapping or voice mapping that a message of a plan is by; the numbers may still be those of the plan before. */
  mapperNumber(plan: Plan, by: number): number {
    const isVoice = by >= VOICE_BASE;
    if (plan === this.numbered) return isVoice ? this.ofVoices[by - VOICE_BASE]! : this.ofMappings[by]!;
    return this.mappings.take((isVoice ? plan.voices[by - VOICE_BASE]! : plan.mappings[by]!).rig.id);
  }

  /** Numbers for what is new in a plan; those of what went are given back: which these are. */
  follow(plan: Plan): { signals: number[]; mappings: number[] } {
    const gone = { signals: [] as number[], mappings: [] as number[] };
    if (plan.signalIds !== this.numberedSignals) {
      this.numberedSignals = plan.signalIds;
      gone.signals = this.signals.retain(new Set(plan.signalIds));
      for (const number of gone.signals) delete this.signalAt[number];
      this.ofSignals = plan.signalIds.map((id) => this.signals.take(id));
      this.ofSignals.forEach((number, index) => (this.signalAt[number] = index));
    }
    this.followStreams(plan);
    const known = this.numbered?.voices.map(({ rig }) => rig.id).join(' ') === plan.voices.map(({ rig }) => rig.id).join(' ') && this.ofMappings.length === plan.mappings.length && plan.mappings.every(({ rig }, m) => this.mappings.idOf(this.ofMappings[m]!) === rig.id);
    if (!known) {
      gone.mappings = this.mappings.retain(new Set([...plan.mappings, ...plan.voices].map(({ rig }) => rig.id)));
      this.mappingAt.length = this.voiceAt.length = 0;
      this.ofMappings = plan.mappings.map(({ rig }) => this.mappings.take(rig.id));
      this.ofMappings.forEach((number, index) => (this.mappingAt[number] = index));
      this.ofVoices = plan.voices.map(({ rig }) => this.mappings.take(rig.id));
      this.ofVoices.forEach((number, index) => (this.voiceAt[number] = index));
    }
    this.numbered = plan;
    return gone;
  }

  private followStreams({ streamIds }: Plan): void {
    this.streams.retain(new Set(streamIds));
    this.streamAt.length = 0;
    streamIds.forEach((id, index) => (this.streamAt[this.streams.take(id)] = index));
  }
}
