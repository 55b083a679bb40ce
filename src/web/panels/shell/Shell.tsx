'use client';

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import type { RigAnswer } from '../../live/fetchRig';
import { FeedsProvider } from '../../live/feeds/FeedsProvider';
import { LiveProvider } from '../../live/LiveProvider';
import { RigProvider } from '../../live/RigProvider';
import { PicturesProvider } from '../../pictures/PicturesProvider';
import { Metronome } from '../../sound/Metronome';
import { SoundProvider } from '../../sound/SoundProvider';
import { BenchTheme } from '../../theme/BenchTheme';
import { Unbroken } from '../../theme/Unbroken';
import { Locked } from '../shared/edit';
import { FirstSteps } from './FirstSteps';
import { InTurnProvider } from './InTurnProvider';
import { IntroduceBanner } from './IntroduceBanner';
import { KeyList } from './KeyList';
import { LineBanner } from './LineBanner';
import { NarrowBench, useNarrow } from './NarrowBench';
import { NetworkAsks } from './NetworkAsks';
import { OutputsBanner } from './OutputsBanner';
import { Spine } from './Spine';
import { TakenOver } from './TakenOver';
import { TopBar } from './TopBar';
import { useRig } from './useRig';
import styles from './Shell.module.css';

interface ShellProps {
  first: RigAnswer;
  hubPort: number;
  children: ReactNode;
}

/** What surrounds every screen: the spine on the left, the bar on top, the live line beneath. */
export function Shell({ first, hubPort, children }: ShellProps) {
  // Pumice is on this computer: what a browser says of the network says nothing about it.
  const [client] = useState(() => new QueryClient({ defaultOptions: { queries: { networkMode: 'always', refetchOnWindowFocus: false, retry: 3, retryDelay: 300 }, mutations: { networkMode: 'always' } } }));
  return (
    <Unbroken>
      <QueryClientProvider client={client}>
        <LiveProvider hubPort={hubPort}>
          <RigProvider first={first}>
            <PicturesProvider hubPort={hubPort}>
              <Themed>{children}</Themed>
            </PicturesProvider>
          </RigProvider>
        </LiveProvider>
      </QueryClientProvider>
    </Unbroken>
  );
}

function Themed({ children }: { children: ReactNode }) {
  const { stage } = useRig();
  const narrow = useNarrow();
  return (
    <BenchTheme stage={stage} narrow={narrow} className={styles.program}>
      <Locked when={stage}>
        <TopBar />
        {!narrow && <Spine />}
        <KeyList />
        <main className={styles.screen} tabIndex={-1}>
          <LineBanner />
          <OutputsBanner />
          {!narrow && <NetworkAsks />}
          {!narrow && <FirstSteps />}
          <InTurnProvider>
            <IntroduceBanner />
            <SoundProvider>
              <Metronome />
              <FeedsProvider>
                {narrow ? <NarrowBench /> : children}
                <TakenOver />
              </FeedsProvider>
            </SoundProvider>
          </InTurnProvider>
        </main>
      </Locked>
    </BenchTheme>
  );
}
