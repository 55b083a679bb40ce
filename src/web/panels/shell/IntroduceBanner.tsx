import { useEffect } from 'react';
import { useLive } from '../../live/LiveProvider';
import { useIntroducing } from '../../live/useLiveFacts';
import { useRig } from './useRig';

/** Says, on every screen, that one mapping is sent alone; Escape or the button ends it. */
export function IntroduceBanner() {
  const live = useLive();
  const introducing = useIntroducing();
  const { document: rig } = useRig();
  useEffect(() => {
    if (introducing === null) return;
    const press = (event: KeyboardEvent) => event.key === 'Escape' && live.tell({ kind: 'introduce', mapping: null });
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [live, introducing]);
  return (
    <div role="status" className="introduce-banner">
      {introducing !== null && (
        <>
          <span>
            Introducing <strong>{rig.mappings.find(({ id }) => id === introducing)?.name ?? introducing}</strong> alone. Everything else is held back, for half a minute at most.
          </span>
          <button type="button" onClick={() => live.tell({ kind: 'introduce', mapping: null })}>
            End <kbd>Esc</kbd>
          </button>
        </>
      )}
    </div>
  );
}
