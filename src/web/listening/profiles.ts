import { FRESH_PROFILE, type Profile } from '../../core/listening/profile';
import { fetchListening, putListening } from '../live/fetchRig';
import { KeptSettings } from '../live/keptSettings';
import { ofBrowser } from '../remember';

const CHOSEN = 'pumice.listening.chosen';

export interface Profiles {
  chosen: string;
  all: Profile[];
}

/** The profiles of performers, and which of them this browser listens by. */
export class ProfileStore {
  private readonly settings: KeptSettings<Profile[]>;

  /** Told what is wrong in one sentence, and null once it is right again. */
  constructor(onProblem: (sentence: string | null) => void) {
    this.settings = new KeptSettings(
      { what: 'profiles', fetch: async () => (await fetchListening()).profiles, put: (profiles) => putListening({ profiles }), browserKey: 'pumice.listening.profiles', read: profilesIn },
      onProblem,
    );
  }

  async load(): Promise<Profiles> {
    const all = await this.settings.load();
    const chosen = ofBrowser.get(CHOSEN) ?? '';
    return { all, chosen: all.some(({ name }) => name === chosen) ? chosen : all[0]!.name };
  }

  choose(chosen: string): void {
    ofBrowser.set(CHOSEN, chosen);
  }

  keep({ chosen, all }: Profiles): void {
    this.choose(chosen);
    this.settings.keep(all);
  }

  flush(leaves?: boolean): Promise<void> {
    return this.settings.flush(leaves);
  }

  /** False where the program has profiles that could not be read. */
  get isWhole(): boolean {
    return this.settings.isWhole;
  }

  /** Whether everything that was changed here is kept. */
  get isKept(): boolean {
    return this.settings.isKept;
  }
}

function profilesIn(kept: unknown): Profile[] {
  const all = ((kept ?? []) as Profile[]).filter(({ name }) => typeof name === 'string').map((profile) => ({ ...FRESH_PROFILE, ...profile }));
  return all.length > 0 ? all : [FRESH_PROFILE];
}
