import type Joi from 'joi';
import { mustBe } from '../protocol/check';
import type { RigRepository } from './storage/rigRepository';

/** Settings of this computer that belong to no rig, kept as a whole under one name. */
export class SettingsDesk<Settings extends object> {
  private current: Settings;

  constructor(
    private readonly settingsIn: Pick<RigRepository, 'setting' | 'saveSetting'>,
    private readonly key: string,
    private readonly schema: Joi.Schema<Settings>,
    /** What counts before anybody set them; a field that was kept by an earlier version without it is filled in from here. */
    private readonly usual: Settings,
    private readonly onChange: () => void = () => undefined,
  ) {
    this.current = usual;
  }

  /** Reads what was set before. */
  async open(): Promise<void> {
    const stored = await this.settingsIn.setting(this.key);
    if (stored !== null) this.current = mustBe(this.schema, { ...this.usual, ...(JSON.parse(stored) as object) });
  }

  get settings(): Settings {
    return this.current;
  }

  async set(candidate: unknown): Promise<Settings> {
    const settings = mustBe(this.schema, candidate);
    await this.settingsIn.saveSetting(this.key, JSON.stringify(settings));
    this.current = settings;
    this.onChange();
    return settings;
  }
}
