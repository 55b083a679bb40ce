import { randomUUID } from 'node:crypto';
import { mustBe } from '../protocol/check';
import { defaultInputSettings, inputSettingsSchema, type InputSettings } from '../protocol/inputSettings';
import { ProblemError } from '../protocol/problem';
import type { Recording, TakenRecording } from '../protocol/recording';
import { readRecording } from '../protocol/recordingFile';
import type { RecordingRepository } from './storage/recordingRepository';
import type { RigRepository } from './storage/rigRepository';

const SETTINGS = 'inputs';

/** The settings of this computer's inputs, and the recordings that can be played as inputs. */
export class InputDesk {
  private current: InputSettings;

  constructor(
    private readonly settingsIn: Pick<RigRepository, 'setting' | 'saveSetting'>,
    private readonly recordings: RecordingRepository,
    private readonly oscPort: number,
    private readonly onChange: () => void,
    private readonly nowMs: () => number,
  ) {
    this.current = defaultInputSettings(oscPort);
  }

  /** Reads what was set before; the first OSC port is always the one that the environment says. */
  async open(): Promise<void> {
    const stored = await this.settingsIn.setting(SETTINGS);
    if (stored === null) return;
    const { oscPorts, ...rest } = mustBe(inputSettingsSchema, JSON.parse(stored));
    this.current = { ...rest, oscPorts: [this.oscPort, ...oscPorts.slice(1).filter((port) => port !== this.oscPort)] };
  }

  get settings(): InputSettings {
    return this.current;
  }

  async set(candidate: unknown): Promise<InputSettings> {
    const settings = mustBe(inputSettingsSchema, candidate);
    await this.settingsIn.saveSetting(SETTINGS, JSON.stringify(settings));
    this.current = settings;
    this.onChange();
    return settings;
  }

  /** Takes the text of a file in. Throws a `ProblemError` where not one line of it is good. */
  async takeRecording(name: string, text: string): Promise<TakenRecording> {
    const { recording: read, problems, badLines } = readRecording(text, name);
    if (!read) {
      const [first] = problems;
      const reason = first ? `line ${first.line}: ${first.message}` : 'it is empty.';
      throw new ProblemError('invalid', 'file', `No line of "${name}" holds a time, a signal and a value; ${reason}`);
    }
    const recording: Recording = { id: randomUUID(), ...read };
    await this.recordings.create(recording, this.nowMs());
    const { signals, which, values, timesMs } = recording;
    const ranges = signals.map((signal) => ({ name: signal, lo: Infinity, hi: -Infinity }));
    values.forEach((value, i) => {
      const range = ranges[which[i]!]!;
      range.lo = Math.min(range.lo, value);
      range.hi = Math.max(range.hi, value);
    });
    return { id: recording.id, name, samples: values.length, lengthMs: timesMs[timesMs.length - 1]!, signals: ranges, problems, badLines };
  }

  /** Those of these recordings that there are, by id. */
  async find(ids: readonly string[]): Promise<Record<string, Recording>> {
    const found = await Promise.all(ids.map((id) => this.recordings.find(id)));
    return Object.fromEntries(found.flatMap((recording) => (recording ? [[recording.id, recording]] : [])));
  }
}
