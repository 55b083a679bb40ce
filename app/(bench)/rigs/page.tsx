import { RigsPanel } from '../../../src/web/panels/rigs/RigsPanel';

export default function RigsPage() {
  return <RigsPanel />;
}
