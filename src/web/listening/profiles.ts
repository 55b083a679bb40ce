import { FRESH_PROFILE, type Profile } from '../../core/listening/profile';
import { fetchListening, putListening, RefusedError } from '../live/fetchRig';

const CHOSEN = 'pumice.listening.chosen';
/** Of a device that joined: what the host keeps is not its own. */
const KEPT = 'pumice.listening.profiles';
/** Changes that come together are kept together. */
const KEEP_MS = 400;

export interface Profiles {
  chosen: string;
  all: Profile[];
}

/** The profiles of performers, kept by the program on its own computer, and on a device that joined by its browser. */
export class ProfileStore {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private waits: Profile[] | null = null;
  private ofBrowser = false;
  /** False where the program has profiles that could not be read. */
  isWhole = true;

  /** Told what is wrong in one sentence, and null once it is right again. */
  constructor(private readonly onProblem: (sentence: string | null) => void) {}

  async load(): Promise<Profiles> {
    const all = await fetchListening().then(
      ({ profiles }) => profiles,
      (error) => {
        this.ofBrowser = true;
        // A device that joined is told no more than that.
        const isDevice = error instanceof RefusedError && error.problem.code === 'forbidden';
        this.isWhole = isDevice;
        if (!isDevice) this.onProblem(`The profiles cannot be read (${error instanceof RefusedError ? error.message : 'Pumice does not answer'}): what is changed now is kept by this browser alone.`);
        return keptHere();
      },
    );
    const chosen = localStorage.getItem(CHOSEN) ?? '';
    return { all, chosen: all.some(({ name }) => name === chosen) ? chosen : all[0]!.name };
  }

  choose(chosen: string): void {
    localStorage.setItem(CHOSEN, chosen);
  }

  keep({ chosen, all }: Profiles): void {
    this.choose(chosen);
    if (this.ofBrowser) return localStorage.setItem(KEPT, JSON.stringify(all));
    this.waits = all;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), KEEP_MS);
  }

  async flush(): Promise<void> {
    clearTimeout(this.timer);
    const { waits } = this;
    this.waits = null;
    if (!waits) return;
    await putListening({ profiles: waits }).then(
      () => this.onProblem(null),
      (error) => {
        this.waits ??= waits;
        this.onProblem(error instanceof RefusedError ? `The profile was not kept: ${error.message}` : 'The profile was not kept: Pumice does not answer. It is tried again with the next change.');
      },
    );
  }

  /** Whether everything that was changed here is kept. */
  get isKept(): boolean {
    return this.waits === null;
  }
}

/** What cannot be read any more is as if it were not there. */
function keptHere(): Profile[] {
  try {
    const all = (JSON.parse(localStorage.getItem(KEPT) ?? '[]') as Profile[]).filter(({ name }) => typeof name === 'string').map((profile) => ({ ...FRESH_PROFILE, ...profile }));
    return all.length > 0 ? all : [FRESH_PROFILE];
  } catch {
    return [FRESH_PROFILE];
  }
}
