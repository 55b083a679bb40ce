import { InputsPanel } from '../../../src/web/panels/inputs/InputsPanel';

export default function InputsPage() {
  return <InputsPanel />;
}
