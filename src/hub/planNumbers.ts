import type { Plan } from '../core/engine/plan';
import { Numbering } from './numbering';

/** Signals and mappings go by hub numbers on the outside, which stay, and by plan indices on the inside, which an edit may move. */
export class PlanNumbers {
  readonly signals = new Numbering();
  readonly mappings = new Numbering();
  private readonly signalAt: number[] = [];
  private readonly mappingAt: number[] = [];
  private ofSignals: number[] = [];
  private ofMappings: number[] = [];
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

  signalNumber(index: number): number {
    return this.ofSignals[index]!;
  }

  mappingNumber(index: number): number {
    return this.ofMappings[index]!;
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
    const known = this.ofMappings.length === plan.mappings.length && plan.mappings.every(({ rig }, m) => this.mappings.idOf(this.ofMappings[m]!) === rig.id);
    if (!known) {
      gone.mappings = this.mappings.retain(new Set(plan.mappings.map(({ rig }) => rig.id)));
      for (const number of gone.mappings) delete this.mappingAt[number];
      this.ofMappings = plan.mappings.map(({ rig }) => this.mappings.take(rig.id));
      this.ofMappings.forEach((number, index) => (this.mappingAt[number] = index));
    }
    return gone;
  }
}
