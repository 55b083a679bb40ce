import fc from 'fast-check';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { BY_THRU, KEEP } from '../../core/engine/sink';
import type { RigOutput } from '../../core/outputs/kinds';
import { Audience } from '../audience';
import { DelayedPort } from './delayedPort';
import { OutputDesk } from './desk';
import type { OutputSink, SinkEvents } from './sink';
import { SlowPort } from './slowPort';
import { memoryStore, SoundingBook } from './soundingBook';

const clock = vi.hoisted(() => ({ nowMs: 1000 }));
vi.mock('../time', () => ({ hubTimeMs: () => clock.nowMs }));

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const IDS = ['plain', 'slow', 'late', 'both'] as const;
type Id = (typeof IDS)[number];
const WAYS: Record<Id, Pick<RigOutput, 'bytesPerS' | 'delayMs'>> = { plain: {}, slow: { bytesPerS: 300 }, late: { delayMs: 40 }, both: { bytesPerS: 300, delayMs: 40 } };

/** An instrument: what sounds and which pedals are down, whatever way its messages come. Unplugged it hears nothing and sounds on. */
class Instrument {
  readonly sounds = new Set<string>();
  readonly pedals = new Set<string>();
  isThere = true;
  says: SinkEvents['state'] = () => undefined;

  hear([status = 0, key = 0, value = 0]: Uint8Array): void {
    if (!this.isThere) return;
    const [kind, channel] = [status & 0xf0, status & 0x0f];
    if (kind === 0x90 && value > 0) this.sounds.add(`${channel} ${key}`);
    else if (kind === 0x80 || kind === 0x90) this.sounds.delete(`${channel} ${key}`);
    else if (kind === 0xb0 && key >= 120) for (const sounding of [...this.sounds]) if (sounding.startsWith(`${channel} `)) this.sounds.delete(sounding);
    if (kind === 0xb0 && key === 64) this.pedals[value >= 64 ? 'add' : 'delete'](`${channel}`);
  }
}

/** What is left of it, where it can hear. */
const silenceOf = ({ isThere, sounds, pedals }: Instrument) => (isThere ? [[...sounds], [...pedals]] : [[], []]);

const id = fc.constantFrom(...IDS);
const step = fc.oneof(
  { weight: 12, arbitrary: fc.record({ does: fc.constantFrom('on' as const, 'off' as const), id, key: fc.integer({ min: 60, max: 62 }), by: fc.constantFrom(0, BY_THRU) }) },
  { weight: 2, arbitrary: fc.record({ does: fc.constant('pedal' as const), id, value: fc.constantFrom(0, 127) }) },
  { weight: 4, arbitrary: fc.record({ does: fc.constant('time' as const), ms: fc.integer({ min: 1, max: 80 }) }) },
  { weight: 1, arbitrary: fc.constant({ does: 'panic' as const }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constantFrom('unplug' as const, 'plug' as const), id }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constant('edit' as const), muted: fc.subarray([...IDS]), left: fc.subarray([...IDS]), quick: fc.boolean() }) },
);

it.each(['panic', 'close'] as const)('whatever is played, edited, unplugged and late: after %s no instrument sounds, and no pedal is down', (ending) => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const instruments = new Map(IDS.map((one) => [one, new Instrument()]));
      const desk = new OutputDesk(new SoundingBook(memoryStore()), new Audience(), (mapping) => mapping, (output, { state }) => {
        const instrument = instruments.get(output.id as Id)!;
        instrument.says = state;
        state(instrument.isThere ? null : 'is not there');
        const port: OutputSink = { takes: 'midi', mayComeBack: false, send: ({ bytes }) => instrument.hear(bytes), close: () => undefined };
        const paced = output.bytesPerS === undefined ? port : new SlowPort(port, output.bytesPerS);
        return output.delayMs ? new DelayedPort(paced, output.delayMs) : paced;
      });
      const outputs = (muted: readonly Id[], left: readonly Id[], quick: boolean): RigOutput[] =>
        IDS.filter((one) => !left.includes(one)).map((one) => ({ id: one, name: one, kind: 'standIn', receiver: 'r', ...(quick ? {} : WAYS[one]), ...(muted.includes(one) && { muted: true }) }));
      const load = (list: readonly RigOutput[]) => {
        desk.open(list);
        desk.closeOthers(list);
      };
      const pass = (ms: number) => {
        clock.nowMs += ms;
        vi.advanceTimersByTime(ms);
      };
      const plug = (one: Id, isThere: boolean) => {
        const instrument = instruments.get(one)!;
        if (instrument.isThere === isThere) return;
        instrument.isThere = isThere;
        instrument.says(isThere ? null : 'is not there');
      };
      load(outputs([], [], false));
      for (const what of steps) {
        if (what.does === 'on' || what.does === 'off') desk.midi(what.id, what.by, Uint8Array.of(what.does === 'on' ? 0x90 : 0x80, what.key, 100), 3, KEEP);
        else if (what.does === 'pedal') desk.midi(what.id, 0, Uint8Array.of(0xb0, 64, what.value), 3, 7);
        else if (what.does === 'time') pass(what.ms);
        else if (what.does === 'panic') desk.panic(() => IDS.forEach((one) => desk.midi(one, 0, Uint8Array.of(0xb0, 64, 0), 3, KEEP)));
        else if (what.does === 'edit') {
          load(outputs(what.muted, what.left, what.quick));
          for (const one of what.left) expect([one, ...silenceOf(instruments.get(one)!)]).toEqual([one, [], []]);
        } else plug(what.id, what.does === 'plug');
      }
      for (const one of IDS) plug(one, true);
      // All are in the rig again: what was taken out of it has ended by that.
      load(outputs([], [], false));
      if (ending === 'panic') desk.panic(() => IDS.forEach((one) => desk.midi(one, 0, Uint8Array.of(0xb0, 64, 0), 3, KEEP)));
      else desk.close();
      for (let i = 0; i < 400; i++) pass(10);
      for (const [one, instrument] of instruments) expect([one, ...silenceOf(instrument)]).toEqual([one, [], []]);
    }),
    { numRuns: 300 },
  );
});
