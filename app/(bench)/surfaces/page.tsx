import { SurfacesPanel } from '../../../src/web/panels/surfaces/SurfacesPanel';

export default function SurfacesPage() {
  return <SurfacesPanel />;
}
