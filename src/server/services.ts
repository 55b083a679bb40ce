import type { Logger } from 'pino';
import type { Environment } from '../protocol/environment';
import type { DeviceDesk } from './deviceDesk';
import type { HandsProfile } from '../core/hands/profile';
import type { HandsFiles } from './handsFiles';
import type { HubLink } from './hubLink';
import type { InputDesk } from './inputDesk';
import type { Library } from './library';
import type { CheckRig } from './rigChecks';
import type { ListeningDesk } from './listeningDesk';
import type { NetworkDesk } from './networkDesk';
import type { RigDesk } from './rigDesk';
import type { RecordSettings } from '../protocol/recordSettings';
import type { KeptRecipes } from '../protocol/takesSchema';
import type { SettingsDesk } from './settingsDesk';
import type { TakeDesk } from './takes/takeDesk';

/** What the pages and route handlers may use. */
export interface Services {
  environment: Environment;
  log: Logger;
  desk: RigDesk;
  inputs: InputDesk;
  networkMidi: NetworkDesk;
  listening: ListeningDesk;
  /** How hands before a camera are understood here. */
  hands: SettingsDesk<HandsProfile>;
  /** What finds hands in pictures, for the pages that look for them. */
  handsFiles: HandsFiles;
  library: Library;
  takes: TakeDesk;
  /** How takes are begun and ended, and the recipes that are kept to tidy them. */
  recording: SettingsDesk<RecordSettings>;
  recipes: SettingsDesk<KeptRecipes>;
  checkRig: CheckRig;
  devices: DeviceDesk;
  /** What devices are told to trust, PEM; null without TLS. */
  certificate: string | null;
  /** The addresses in the network that pages are served at now, and a sentence for each that they cannot be. */
  network(): { addresses: string[]; problems: string[] };
  link: HubLink;
}

/**
 * The server is built apart from the pages, so a module both import exists twice; this one place on `globalThis` is
 * where the pages find what the server made.
 */
const KEY = Symbol.for('pumice.services');
const store = globalThis as { [KEY]?: Services };

export function provideServices(services: Services): void {
  store[KEY] = services;
}

export function services(): Services {
  const found = store[KEY];
  if (!found) throw new Error('The pages run inside the server of Pumice only: start it with `npm run demo`.');
  return found;
}
