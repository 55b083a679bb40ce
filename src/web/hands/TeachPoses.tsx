import { App } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { EXAMPLES_OF_A_POSE, PoseBook, POSES_MOST } from '../../core/hands/poses';
import type { HandsProfile } from '../../core/hands/profile';
import type { Heard } from '../live/heard';
import { TeachList } from '../teaching/TeachList';
import { useLatest } from '../useLatest';
import type { FromTracker } from './messages';

const ENOUGH = 8;

interface TeachPosesProps {
  profile: HandsProfile;
  running: boolean;
  told: Heard<FromTracker>;
  onTeach: (name: string) => void;
  onChange: (set: Partial<HandsProfile>) => void;
}

/** Shapes of the hand, each taught by showing it for two seconds; with either hand it is a gate from then on. */
export function TeachPoses({ profile, running, told, onTeach, onChange }: TeachPosesProps) {
  const { message } = App.useApp();
  const [teaching, setTeaching] = useState<string | null>(null);
  const latest = useLatest({ profile, onChange });
  if (!running && teaching !== null) setTeaching(null);
  useEffect(
    () =>
      told.listen((heard) => {
        if (heard.kind !== 'taughtPose') return;
        setTeaching(null);
        if (heard.examples.length === 0) return void message.warning(`No hand was seen while ${heard.name} was taught: hold it before the camera for two seconds.`);
        const { profile: now, onChange: change } = latest.current;
        const before = now.poses.find(({ name }) => name === heard.name);
        // The newest examples stay.
        const taught = { name: heard.name, examples: [...(before?.examples ?? []), ...heard.examples].slice(-EXAMPLES_OF_A_POSE) };
        change({ poses: before ? now.poses.map((pose) => (pose === before ? taught : pose)) : [...now.poses, taught] });
      }),
    [told, latest, message],
  );
  const likeness = useMemo(() => new PoseBook(profile.poses).likeness(), [profile.poses]);
  return (
    <TeachList
      legend="Shapes of the hand"
      noun="shape"
      placeholder="horn"
      taught={profile.poses}
      enough={ENOUGH}
      most={POSES_MOST}
      likeness={likeness}
      advice="make one of them plainer, or teach it again."
      teaching={teaching}
      now={<>Show {teaching} and hold it for two seconds, turning it a little</>}
      ready={running}
      onTeach={(name) => {
        setTeaching(name);
        onTeach(name);
      }}
      onForget={(name) => onChange({ poses: profile.poses.filter((pose) => pose.name !== name) })}
    />
  );
}
