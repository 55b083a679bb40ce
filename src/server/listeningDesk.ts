import { FRESH_PROFILE } from '../core/listening/profile';
import { mustBe } from '../protocol/check';
import { listeningProfilesSchema, type ListeningProfiles } from '../protocol/listeningProfiles';
import type { RigRepository } from './storage/rigRepository';

const SETTINGS = 'listening';

/** Keeps the profiles of those who sing and drum on this computer. */
export class ListeningDesk {
  constructor(private readonly settingsIn: Pick<RigRepository, 'setting' | 'saveSetting'>) {}

  async profiles(): Promise<ListeningProfiles> {
    const stored = await this.settingsIn.setting(SETTINGS);
    if (stored === null) return { profiles: [FRESH_PROFILE] };
    // One that was kept before something could be set has it as it was then.
    const { profiles } = JSON.parse(stored) as ListeningProfiles;
    return mustBe(listeningProfilesSchema, { profiles: profiles.map((profile) => ({ ...FRESH_PROFILE, ...profile })) });
  }

  async set(candidate: unknown): Promise<ListeningProfiles> {
    const profiles = mustBe(listeningProfilesSchema, candidate);
    await this.settingsIn.saveSetting(SETTINGS, JSON.stringify(profiles));
    return profiles;
  }
}
