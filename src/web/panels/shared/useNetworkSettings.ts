import type { NetworkSettings } from '../../../protocol/networkSettings';
import { fetchNetworkSettings, putNetworkSettings } from '../../live/fetchRig';
import { useSettings, type SettingsPlace } from './useSettings';

const PLACE: SettingsPlace<NetworkSettings> = { key: 'network', fetch: fetchNetworkSettings, put: putNetworkSettings };

/** How network MIDI is set on this computer, and how that is changed. */
export const useNetworkSettings = () => useSettings(PLACE);
