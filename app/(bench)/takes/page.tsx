import { TakesPanel } from '../../../src/web/panels/takes/TakesPanel';

export default function TakesPage() {
  return <TakesPanel />;
}
