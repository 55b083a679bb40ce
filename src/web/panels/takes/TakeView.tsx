import { useQuery } from '@tanstack/react-query';
import { Button, Progress, Segmented } from 'antd';
import { useState } from 'react';
import type { TidyStep } from '../../../core/takes/tidy';
import { counted } from '../../../core/units/counted';
import type { TakeDetail, TakeSummary } from '../../../protocol/takes';
import { Dialog } from '../shared/Dialog';
import { NameField } from '../shared/NameField';
import { usePlayingTake } from '../../live/useLiveFacts';
import { useRig } from '../shell/useRig';
import { Leaving } from '../stage/StagePanel';
import { deleteVersion, fetchTake, patchTake, playThroughVoices, renderTake, stopRendering } from './fetchTakes';
import { RenderAgain } from './RenderAgain';
import { HandOver } from './HandOver';
import { Lanes } from './Lanes';
import styles from './takes.module.css';
import { TidyPanel } from './TidyPanel';
import { useTakeChanges, type TakeChanges } from './useTakeChanges';
import { useTakePicture } from './useTakePicture';
import { clockOf, dayAndTime, sizeInWords } from '../../recording/words';
import { EditButton, EditSelect } from '../shared/edit';

const NO_STEPS: TidyStep[] = [];

interface TakeViewProps {
  summary: TakeSummary;
  onChange: () => void;
  /** Another take is to be shown. */
  onOpen: (id: string) => void;
}

/** One take: its picture, its versions, and what is done with it. */
export function TakeView({ summary, onChange, onOpen }: TakeViewProps) {
  const { id, state, lengthMs } = summary;
  const waits = (detail: TakeDetail | undefined) => detail === undefined || detail.rendering !== null || detail.versions.length === 0;
  const { data: detail } = useQuery({ queryKey: ['take', id, state], queryFn: () => fetchTake(id), refetchInterval: ({ state: { data } }) => (waits(data) && !data?.failure ? 400 : false), placeholderData: (before) => before });
  const changes = useTakeChanges(id, onChange);
  if (state === 'recording') {
    return (
      <section className={styles.take} aria-label={summary.name}>
        <div className={styles.column}>
        <h2>{summary.name}</h2>
        <p className={styles.remark}>It is being recorded: {sizeInWords(summary.bytes)} are written down, {clockOf(lengthMs)} of it. Its picture is drawn when it has ended.</p>
        <div className={styles.leaves}>
          <Leaving />
        </div>
        </div>
      </section>
    );
  }
  return detail ? <Take detail={detail} summary={summary} changes={changes} onOpen={onOpen} /> : <section className={styles.take} aria-busy />;
}

interface TakeProps extends Pick<TakeViewProps, 'summary' | 'onOpen'> {
  detail: TakeDetail;
  changes: TakeChanges;
}

function Take({ detail, summary, changes: { ahead, attempt, tidy, mark, remove }, onOpen }: TakeProps) {
  const { id } = summary;
  const { rendering, failure } = detail;
  const { document: rig } = useRig();
  const [chosen, choose] = useState<string | null>(null);
  const [beside, setBeside] = useState<'tidy' | 'handOver' | null>(null);
  const [deleting, setDeleting] = useState(false);
  const plays = usePlayingTake()?.take === id;
  const versions = detail.versions.map((one) => ({ ...one, recipe: ahead.recipes[one.id] ?? one.recipe }));
  const version = versions.find((one) => one.id === chosen) ?? versions.at(0);
  const recipe = version?.recipe ?? NO_STEPS;
  const beneath = version && version !== versions[0] ? versions[0]!.id : null;
  const picture = useTakePicture(detail, version?.id, beneath, recipe);
  return (
    <div className={styles.take}>
      <section className={styles.column} aria-label={summary.name}>
      <header className={styles.head}>
        <NameField label="Name of the take" className={styles.name} name={summary.name} onChange={(name) => attempt(() => patchTake(id, { name }))} />
        <p suppressHydrationWarning>
          {clockOf(summary.lengthMs)} · {counted(summary.events, 'event')} · {sizeInWords(summary.bytes)} · {dayAndTime(summary.startedAtMs)}, {summary.rigName}
          {summary.state === 'cut' && ' · recording broke off here; all up to there is kept'}
        </p>
        <span className={styles.does}>
          <Button type={beside === 'tidy' ? 'primary' : 'default'} aria-pressed={beside === 'tidy'} disabled={!version} onClick={() => setBeside(beside === 'tidy' ? null : 'tidy')}>
            Tidy{recipe.length > 0 && ` · ${recipe.length}`}
          </Button>
          <Button type={beside === 'handOver' ? 'primary' : 'default'} aria-pressed={beside === 'handOver'} disabled={!version} onClick={() => setBeside(beside === 'handOver' ? null : 'handOver')}>
            Hand over
          </Button>
          <EditButton danger onClick={() => setDeleting(true)}>
            Delete
          </EditButton>
        </span>
      </header>
      <div className={styles.versions}>
        {version && (
          <Segmented aria-label="Versions of this take" value={version.id} options={versions.map(({ id: value, name, messages }) => ({ value, label: `${name} · ${messages.toLocaleString('en')}` }))} onChange={choose} />
        )}
        {rendering ? (
          <>
            <span role="status">{rendering.name}</span>
            <Progress className={styles.progress!} percent={Math.round(rendering.progress * 100)} size="small" />
            <Button onClick={() => attempt(() => stopRendering(id))}>Stop</Button>
          </>
        ) : (
          <>
            {/* What came as a MIDI file has no gestures that could be rendered again; its notes can be played as voices. */}
            {summary.events > 0 && <RenderAgain id={id} onRender={(asked) => attempt(() => renderTake(id, asked))} />}
            {summary.events === 0 && (
              <EditSelect
                className={styles.voices!}
                aria-label="Play its notes through the voices of"
                placeholder="Play its notes through the voices of…"
                value={null}
                options={rig.streams.map(({ id: value, name }) => ({ value, label: name }))}
                onChange={(stream: string | null) => stream && attempt(async () => onOpen((await playThroughVoices(id, stream)).id))}
              />
            )}
          </>
        )}
        {versions.length > 1 && version && (
          <EditButton type="text" danger onClick={() => attempt(() => deleteVersion(id, version.id))}>
            Delete this version
          </EditButton>
        )}
      </div>
      {failure && (
        <p role="alert" className={styles.problem}>
          {failure}
        </p>
      )}
      {picture.problem && (
        <p role="alert" className={styles.problem}>
          {picture.problem}
        </p>
      )}
      {version && version.leftOut.length > 0 && <p className={styles.remark}>Not in this rig, so left out: {version.leftOut.map(([what, count]) => `${what} (${count.toLocaleString('en')})`).join(', ')}.</p>}
      {version && <Lanes key={version.id} detail={detail} version={version.id} picture={picture} marks={ahead.marks ?? detail.take.marks} onMarks={mark} />}
      </section>
      {beside === 'tidy' && version && <TidyPanel key={version.id} version={version} picture={picture} onRecipe={(next) => tidy(version.id, next)} onClose={() => setBeside(null)} />}
      {beside === 'handOver' && version && <HandOver detail={detail} version={version} onClose={() => setBeside(null)} />}
      {deleting && (
        <Dialog
          title={`Delete ${summary.name}?`}
          okText="Delete"
          okButtonProps={{ danger: true }}
          onCancel={() => setDeleting(false)}
          onOk={() => {
            setDeleting(false);
            remove();
          }}
        >
          {plays && 'It is being played, and stops. '}
          Its {clockOf(summary.lengthMs)} and {versions.length === 1 ? 'its version' : `its ${versions.length} versions`} are gone then; hand it over as a take first to keep it elsewhere.
        </Dialog>
      )}
    </div>
  );
}
