import { useLineStatus } from '../../live/useLiveFacts';

/** Says so while the line to the hub is down; nothing on screen is live then. */
export function LineBanner() {
  const status = useLineStatus();
  return (
    <div role="status" className="line-banner" data-line={status}>
      {status === 'lost' && 'No connection to Pumice. What you see may be old. Trying again…'}
    </div>
  );
}
