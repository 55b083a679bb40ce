import { services } from '../../src/server/services';
import { HandsPage } from '../../src/web/hands/HandsPage';

/** Whoever holds this page open, on this computer or on a device that joined, brings a camera. */
export default function Page() {
  const { environment, handsFiles } = services();
  return <HandsPage hubPort={environment.hubPort} modelFolder={`/hands/model/${handsFiles.version}/`} />;
}
