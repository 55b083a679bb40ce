import { services } from '../../src/server/services';
import { ListenPage } from '../../src/web/listening/ListenPage';

/** Whoever holds this page open, on this computer or on a device that joined, brings a microphone. */
export default function Page() {
  return <ListenPage hubPort={services().environment.hubPort} />;
}
