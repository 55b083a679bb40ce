import { OutputsPanel } from '../../../src/web/panels/outputs/OutputsPanel';

export default function OutputsPage() {
  return <OutputsPanel />;
}
