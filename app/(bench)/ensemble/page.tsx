import { EnsemblePanel } from '../../../src/web/panels/ensemble/EnsemblePanel';

export default function EnsemblePage() {
  return <EnsemblePanel />;
}
