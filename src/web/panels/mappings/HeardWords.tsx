import { useMappingState } from '../../live/useLiveFacts';
import { heardInWords } from './heardInWords';
import bands from './bands.module.css';

/** When a mapping was heard last. */
export function HeardWords({ id, silenced }: { id: string; silenced: boolean }) {
  const words = useMappingState(id, (state) => heardInWords(state?.heardMs));
  return <span className={bands.heard}>{silenced ? 'off by a scene' : words}</span>;
}
