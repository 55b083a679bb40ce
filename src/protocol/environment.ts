import Joi from 'joi';

/** What may be set from outside. */
export interface Environment {
  port: number;
  hubPort: number;
  oscPort: number;
  /** The first of the two UDP ports of the first session of network MIDI. */
  midiPort: number;
  dataFolder: string;
  /** Pages over TLS, with a certificate of this computer's own. */
  https: boolean;
  /** Of several networks those to be joined from, by this computer's address in them; empty for all. */
  lanAddresses: string[];
}

const port = Joi.number().integer().min(1).max(65535);

const schema = Joi.object({
  PORT: port.default(4700),
  PUMICE_HUB_PORT: port,
  PUMICE_OSC_PORT: port.default(9400),
  PUMICE_MIDI_PORT: port.min(1024).max(65534).default(4704),
  PUMICE_DATA: Joi.string().default('data'),
  PUMICE_HTTPS: Joi.boolean().truthy('1').falsy('0', '').default(false),
  PUMICE_LAN_ADDRESSES: Joi.string().allow('').pattern(/^(\d+(\.\d+){3}(,|$))*$/, 'IPv4 addresses with commas between').default(''),
}).unknown();

/** Reads the environment variables. Throws one sentence that names the variable where one is wrong. */
export function readEnvironment(variables: Record<string, string | undefined>): Environment {
  const { error, value } = schema.validate(variables, { errors: { wrap: { label: false } } });
  if (error) {
    const { message, path } = error.details[0]!;
    throw new Error(`${message}, found "${variables[String(path[0])]}": set ${path[0]} to something else and start again.`);
  }
  const hubPort = value.PUMICE_HUB_PORT ?? value.PORT + 1;
  if (hubPort === value.PORT) throw new Error(`PORT and PUMICE_HUB_PORT are both ${hubPort}: give each its own.`);
  if (hubPort > 65535) throw new Error('PORT is 65535 and leaves no port for the hub: set PUMICE_HUB_PORT.');
  const lanAddresses = value.PUMICE_LAN_ADDRESSES.split(',').filter(Boolean);
  return { port: value.PORT, hubPort, oscPort: value.PUMICE_OSC_PORT, midiPort: value.PUMICE_MIDI_PORT, dataFolder: value.PUMICE_DATA, https: value.PUMICE_HTTPS, lanAddresses };
}
