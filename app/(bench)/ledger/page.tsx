import { LedgerPanel } from '../../../src/web/panels/ledger/LedgerPanel';

export default function LedgerPage() {
  return <LedgerPanel />;
}
