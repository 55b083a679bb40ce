/** When a gate of a measure goes on and off: two limits, so that a hand between them flutters not, and least times against one bad picture. */
export interface GateRule {
  /** On where the measure is at least this far past `on` on its own side; off where it is back past `off`. `on` below `off`: it is on below. */
  on: number;
  off: number;
  /** It must be so for so long. */
  leastMs: number;
}

/** Where pictures come further apart than this, one alone is believed: to wait for the next would be late, and a short gesture be missed. */
const SLOW_MS = 100;

/** A gate of a measure that is looked at picture by picture. */
export class MeasureGate {
  isOn = false;
  /** Since when it wants to be otherwise than it is, NaN where it does not. */
  private sinceMs = NaN;
  private lookedMs = NaN;

  constructor(private readonly rule: GateRule) {}

  /** NaN: nothing can be said, it stays. Returns whether it is on. */
  look(measure: number, timeMs: number): boolean {
    const { on, off, leastMs } = this.rule;
    if (Number.isNaN(measure)) return this.isOn;
    const gapMs = timeMs - this.lookedMs;
    this.lookedMs = timeMs;
    const below = on < off;
    const wants = this.isOn ? !(below ? measure > off : measure < off) : below ? measure < on : measure > on;
    if (wants === this.isOn) {
      this.sinceMs = NaN;
      return this.isOn;
    }
    if (Number.isNaN(this.sinceMs)) this.sinceMs = timeMs;
    if (timeMs - this.sinceMs >= leastMs || gapMs >= SLOW_MS) {
      this.isOn = wants;
      this.sinceMs = NaN;
    }
    return this.isOn;
  }

  /** It is off from now on. */
  drop(): void {
    this.isOn = false;
    this.sinceMs = NaN;
    this.lookedMs = NaN;
  }
}
