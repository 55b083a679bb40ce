import type { RecordSettings } from '../../../protocol/recordSettings';
import { fetchRecordSettings, putRecordSettings } from '../../live/fetchRig';
import { useSettings, type SettingsPlace } from './useSettings';

const PLACE: SettingsPlace<RecordSettings> = { key: 'recording', fetch: fetchRecordSettings, put: putRecordSettings };

/** How takes are begun and ended on this computer, and how that is changed. */
export const useRecordSettings = () => useSettings(PLACE);
