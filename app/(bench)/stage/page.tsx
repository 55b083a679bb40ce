import { StagePanel } from '../../../src/web/panels/stage/StagePanel';

export default function StagePage() {
  return <StagePanel />;
}
