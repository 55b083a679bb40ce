import { mustBe } from '../protocol/check';
import { DEFAULT_RECORD_SETTINGS, recordSettingsSchema, type RecordSettings } from '../protocol/recordSettings';
import type { RigRepository } from './storage/rigRepository';

const SETTINGS = 'record';

/** How takes are begun and ended on this computer. */
export class RecordDesk {
  private current = DEFAULT_RECORD_SETTINGS;

  constructor(
    private readonly settingsIn: Pick<RigRepository, 'setting' | 'saveSetting'>,
    private readonly onChange: () => void,
  ) {}

  async open(): Promise<void> {
    const stored = await this.settingsIn.setting(SETTINGS);
    if (stored !== null) this.current = mustBe(recordSettingsSchema, { ...DEFAULT_RECORD_SETTINGS, ...(JSON.parse(stored) as object) });
  }

  get settings(): RecordSettings {
    return this.current;
  }

  async set(candidate: unknown): Promise<RecordSettings> {
    const settings = mustBe(recordSettingsSchema, candidate);
    await this.settingsIn.saveSetting(SETTINGS, JSON.stringify(settings));
    this.current = settings;
    this.onChange();
    return settings;
  }
}
