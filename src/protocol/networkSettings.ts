import Joi from 'joi';
import { LIMITS } from './limits';
import { ipAddress, name } from './rig/pieces';

/** Network MIDI of this computer, whatever rig is open. */
export interface NetworkSettings {
  on: boolean;
  /** Sessions that others connect to: names, and the first of the two UDP ports of each. */
  sessions: NetworkSessionSettings[];
  /** Who asked to connect once, and whether it may. */
  known: KnownGuest[];
  /** Whom we connect to, besides those that outputs lead to. */
  invited: InvitedPeer[];
}

export interface NetworkSessionSettings {
  name: string;
  port: number;
}

/** By what it says of itself and where it is: a name alone anybody can say. */
export interface KnownGuest {
  name: string;
  address: string;
  may: boolean;
}

export interface InvitedPeer {
  session: string;
  name: string;
  /** Where it is; absent: where it announces itself under this name. */
  at?: { address: string; port: number };
}

const address = ipAddress.required();
/** The port behind it is the session's, too. */
const port = Joi.number().integer().min(1024).max(65534).required();
/** Names of others are theirs, whatever is in them. */
const anyName = Joi.string().max(LIMITS.reportLength).required();

export const networkSettingsSchema = Joi.object<NetworkSettings>({
  on: Joi.boolean().required(),
  sessions: Joi.array()
    .items(Joi.object({ name: name.required(), port }))
    .unique('name')
    .unique((a: NetworkSessionSettings, b: NetworkSessionSettings) => Math.abs(a.port - b.port) < 2)
    .min(1)
    .max(LIMITS.networkSessions)
    .required()
    .messages({ 'array.unique': '{{#label}} must have another name than the others, and a port that is not one of theirs or beside it' }),
  known: Joi.array()
    .items(Joi.object({ name: anyName, address, may: Joi.boolean().required() }))
    .max(LIMITS.networkGuests)
    .required(),
  invited: Joi.array()
    .items(Joi.object({ session: name.required(), name: anyName, at: Joi.object({ address, port }) }))
    .max(LIMITS.networkGuests)
    .required(),
});

export function defaultNetworkSettings(port: number): NetworkSettings {
  return { on: false, sessions: [{ name: 'Pumice', port }], known: [], invited: [] };
}
