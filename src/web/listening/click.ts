const LOUDNESS = 0.2;
const LENGTH_S = 0.03;

/** A short high tick, higher on the first beat of four, placed by the clock of the sound and not by that of the page. */
export class Click {
  private readonly context = new AudioContext();

  /** @param atMs when, in `performance.now()`; what lies behind is played at once */
  at(atMs: number, isFirst: boolean): void {
    const { context } = this;
    const atS = context.currentTime + Math.max(0, atMs - performance.now()) / 1000;
    const tone = context.createOscillator();
    const gain = context.createGain();
    tone.frequency.value = isFirst ? 2000 : 1400;
    gain.gain.setValueAtTime(LOUDNESS, atS);
    gain.gain.exponentialRampToValueAtTime(0.001, atS + LENGTH_S);
    tone.connect(gain).connect(context.destination);
    tone.start(atS);
    tone.stop(atS + LENGTH_S);
  }

  close(): void {
    void this.context.close();
  }
}
