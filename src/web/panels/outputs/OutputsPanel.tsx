'use client';

import { Button, Segmented } from 'antd';
import { useMemo, useRef, useState } from 'react';
import { mismatches } from '../../../core/receivers/mismatch';
import type { OutputsState } from '../../../protocol/live';
import { useOutputsState } from '../../live/useLiveFacts';
import { useRig } from '../shell/useRig';
import { AddOutput } from './AddOutput';
import { Delays } from './Delays';
import { Monitor } from './Monitor';
import { NetworkPanel } from './NetworkPanel';
import { OutputCard } from './OutputCard';
import { OutputSettings } from './OutputSettings';
import { SoundSwitch } from './SoundSwitch';
import styles from './outputs.module.css';
import shared from '../shared/shared.module.css';

type View = 'messages' | 'delay';

/** Where everything leaves, what each receiver hears right now, and everything that enters and leaves. */
export function OutputsPanel() {
  const { document: rig } = useRig();
  const state = useOutputsState();
  const misfits = useMemo(() => mismatches(rig), [rig]);
  const [openedId, open] = useState<string | null>(null);
  const [view, setView] = useState<View>('messages');
  const [showsNetwork, showNetwork] = useState(false);
  const opened = rig.outputs.find(({ id }) => id === openedId);
  const turned = useRef(false);
  const views = (
    <Segmented<View>
      // It stands in what it changes, and is another one then.
      ref={(made) => {
        if (!made || !turned.current) return;
        turned.current = false;
        made.querySelector<HTMLElement>('input:checked')?.focus();
      }}
      aria-label="What is shown beneath"
      value={view}
      options={[
        { value: 'messages', label: 'Messages' },
        { value: 'delay', label: 'Delay' },
      ]}
      onChange={(next) => {
        setView(next);
        turned.current = true;
      }}
    />
  );
  const openOutput = (id: string | null) => {
    open(id);
    showNetwork(false);
  };
  return (
    <div className={styles.screen} data-open={showsNetwork || opened !== undefined}>
      <section className={styles.list} aria-labelledby="outputs-title">
        <div className={styles.head}>
          <h1 id="outputs-title">Outputs</h1>
          <SoundSwitch />
          <Button onClick={() => showNetwork(true)}>Network MIDI{state?.network.on ? `: ${connected(state)}` : ''}</Button>
          <AddOutput onAdded={openOutput} onNetwork={() => showNetwork(true)} />
        </div>
        {state?.usable === false && <p className={styles.said}>MIDI ports: this computer has none that can be used. A page can lend those of its browser, from any computer.</p>}
        {rig.outputs.length === 0 && <p className={shared.empty}>Nothing leaves yet. Add an output: a port that is plugged in, or a stand-in to practise with.</p>}
        <div className={styles.cards}>
          {rig.outputs.map((output) => (
            <OutputCard
              key={output.id}
              output={output}
              rig={rig}
              misfits={misfits.filter((misfit) => misfit.output === output.id).map(({ text }) => text)}
              state={state?.outputs.find(({ id }) => id === output.id)}
              opened={output.id === openedId && !showsNetwork}
              onOpen={() => openOutput(output.id === openedId ? null : output.id)}
            />
          ))}
        </div>
      </section>
      {showsNetwork && <NetworkPanel onClose={() => showNetwork(false)} />}
      {opened && !showsNetwork && <OutputSettings key={opened.id} output={opened} onClose={() => open(null)} />}
      {view === 'messages' ? <Monitor views={views} /> : <Delays views={views} />}
    </div>
  );
}

function connected({ network }: OutputsState): string {
  const count = network.sessions.reduce((sum, { peers }) => sum + peers.filter(({ open }) => open).length, 0);
  return count === 0 ? 'nobody' : `${count} connected`;
}
