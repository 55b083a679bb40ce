import { MappingsPanel } from '../../../src/web/panels/mappings/MappingsPanel';

export default function MappingsPage() {
  return <MappingsPanel />;
}
