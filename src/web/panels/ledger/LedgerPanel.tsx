'use client';

import { Button, Segmented, Select, Table, type TableProps } from 'antd';
import Papa from 'papaparse';
import { useMemo, useState } from 'react';
import { ledgerCells } from '../../../core/ledger/cells';
import { channelAdvice } from '../../../core/ledger/ledger';
import { routingOf } from '../../../core/ensemble/routing';
import { RoutingTable } from '../ensemble/RoutingTable';
import { ledgerRows, type LedgerRow } from '../../../core/ledger/rows';
import { download } from '../shared/download';
import { useRig } from '../shell/useRig';
import { ChannelStrip } from './ChannelStrip';
import { MoveChannel } from './MoveChannel';
import shared from '../shared/shared.module.css';
import { ScreenLink } from '../shared/ScreenLink';
import ledger from './ledger.module.css';

/** Controller numbers that are written above the cells. */
const SCALE = [0, 16, 32, 48, 64, 80, 96, 112, 127];

const STATE_WORDS: Record<LedgerRow['state'], string> = { used: '', warned: '△ ', clash: '✕ ' };

const COLUMNS: TableProps<LedgerRow>['columns'] = [
  { title: 'Output', dataIndex: 'output', width: 150 },
  { title: 'Address', dataIndex: 'address', width: 220, className: shared.numbers! },
  { title: 'Mapping', dataIndex: 'mappingName', render: (name: string, { mapping }) => <ScreenLink href={`/mappings#${mapping}`}>{name}</ScreenLink> },
  { title: 'Signal', dataIndex: 'signal', render: (signal: string, { input }) => `${signal}, ${input}` },
  { title: 'On', dataIndex: 'on', width: 60, render: (on: boolean) => (on ? 'on' : 'off') },
  { title: 'Remark', dataIndex: 'remark', render: (remark: string, { state }) => (remark === '' ? '' : <span data-state={state}>{STATE_WORDS[state] + remark}</span>) },
];

/** Every message address in use: sixteen channels at a glance, and as a table; clashes, warnings, free numbers. */
export function LedgerPanel() {
  const { document: rig } = useRig();
  const [chosen, setOutput] = useState<string | null>(null);
  // One that was chosen may be gone, with its rig or by another window.
  const output = (rig.outputs.find(({ id }) => id === chosen) ?? rig.outputs[0])?.id ?? '';
  const [shown, setShown] = useState<'glance' | 'table'>('glance');
  const rows = useMemo(() => ledgerRows(rig), [rig]);
  const cells = useMemo(() => ledgerCells(rig, output), [rig, output]);
  const clashes = rows.filter(({ state }) => state === 'clash');
  const warnings = rows.filter(({ state }) => state === 'warned');
  const exportCsv = () =>
    download(
      `${rig.name} ledger.csv`,
      `${Papa.unparse(rows.map(({ output: name, channel, address, mappingName, signal, input, on, state, remark }) => ({ output: name, channel: channel ?? '', address, mapping: mappingName, signal, input, on: on ? 'on' : 'off', state, remark })), { newline: '\n' })}\n`,
      'text/csv',
    );
  return (
    <section className={ledger.ledger} aria-labelledby="ledger-title">
      <header className={ledger.ledgerHead}>
        <h1 id="ledger-title">
          Ledger{' '}
          <small>
            {clashes.length === 0 ? 'no clashes' : `${clashes.length} in clashes`}, {warnings.length === 0 ? 'no warnings' : `${warnings.length} warned`}
          </small>
        </h1>
        <Segmented
          aria-label="How it is shown"
          value={shown}
          options={[
            { value: 'glance', label: 'At a glance' },
            { value: 'table', label: 'As a table' },
          ]}
          onChange={setShown}
        />
        <Button onClick={exportCsv}>Export CSV</Button>
        <Button onClick={() => window.print()}>Print</Button>
      </header>
      {shown === 'glance' && (
        <>
          <div className={ledger.ledgerTools}>
            <Select aria-label="Output" value={output} options={rig.outputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={setOutput} />
            <ul className={ledger.ledgerKey} aria-label="Signs">
              <li data-state="used">in use</li>
              <li data-state="clash">clash</li>
              <li data-state="warned">in use, warned</li>
              <li data-state="best">free, proposed first</li>
              <li data-state="refused">refused</li>
            </ul>
            <MoveChannel output={output} />
          </div>
          <div className={ledger.scale} aria-hidden>
            {SCALE.map((controller) => (
              <span key={controller} style={{ left: `${((controller + 0.5) / 128) * 100}%` }}>
                {controller}
              </span>
            ))}
          </div>
          <ol className={ledger.channels} aria-label="Channels">
            {cells.map((channel) => (
              <ChannelStrip key={channel.channel} cells={channel} output={output} rig={rig} advice={channelAdvice(channel.channel)} />
            ))}
          </ol>
        </>
      )}
      <div className={shown === 'table' ? undefined : ledger.inPrint}>
        <Table size="small" rowKey="mapping" columns={COLUMNS} dataSource={rows} pagination={false} />
        {rig.members.length > 0 && <RoutingTable routes={routingOf(rig)} />}
      </div>
      {shown === 'glance' && clashes.length + warnings.length > 0 && (
        <ul className={ledger.remarks} aria-label="Clashes and warnings">
          {[...clashes, ...warnings].map(({ mapping, mappingName, address, output: where, state, remark }) => (
            <li key={mapping}>
              <span data-state={state}>{state === 'clash' ? '✕ clash' : '△ warning'}</span>
              <ScreenLink href={`/mappings#${mapping}`}>{mappingName}</ScreenLink>
              <span>
                {where}, {address}: {remark}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
