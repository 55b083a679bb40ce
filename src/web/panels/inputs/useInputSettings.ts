import type { InputSettings } from '../../../protocol/inputSettings';
import { fetchInputSettings, putInputSettings } from '../../live/fetchRig';
import { useSettings, type SettingsPlace } from '../shared/useSettings';

const PLACE: SettingsPlace<InputSettings> = { key: 'inputs', fetch: fetchInputSettings, put: putInputSettings };

/** The settings of this computer's inputs, and how they are changed. */
export const useInputSettings = () => useSettings(PLACE);
