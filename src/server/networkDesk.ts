import { mustBe } from '../protocol/check';
import { defaultNetworkSettings, networkSettingsSchema, type NetworkSettings } from '../protocol/networkSettings';
import type { RigRepository } from './storage/rigRepository';

const SETTINGS = 'network';

/** How network MIDI is set on this computer. */
export class NetworkDesk {
  private current: NetworkSettings;

  constructor(
    private readonly settingsIn: Pick<RigRepository, 'setting' | 'saveSetting'>,
    private readonly midiPort: number,
    private readonly onChange: () => void,
  ) {
    this.current = defaultNetworkSettings(midiPort);
  }

  /** Reads what was set before; the ports of the first session are always those that the environment says. */
  async open(): Promise<void> {
    const stored = await this.settingsIn.setting(SETTINGS);
    if (stored === null) return;
    const { sessions, ...rest } = mustBe(networkSettingsSchema, JSON.parse(stored));
    const [first, ...others] = sessions;
    this.current = { ...rest, sessions: [{ name: first!.name, port: this.midiPort }, ...others.filter(({ port }) => Math.abs(port - this.midiPort) > 1)] };
  }

  get settings(): NetworkSettings {
    return this.current;
  }

  async set(candidate: unknown): Promise<NetworkSettings> {
    const settings = mustBe(networkSettingsSchema, candidate);
    await this.settingsIn.saveSetting(SETTINGS, JSON.stringify(settings));
    this.current = settings;
    this.onChange();
    return settings;
  }
}
