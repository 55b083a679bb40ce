import { memo } from 'react';
import type { RigControl } from '../../../core/rig/document';
import { Choice } from './Choice';
import { Dial } from './Dial';
import { Fader } from './Fader';
import { FoldOut } from './FoldOut';
import { Keys, VoiceKeys } from './Keys';
import { Lanes } from './Lanes';
import { Pads, VoicePads } from './Pads';
import { PitchField } from './PitchField';
import { Push } from './Push';
import { Shown } from './Shown';
import { Stepper } from './Stepper';
import { BankTabs, Label, PageTab, SceneButton } from './Turns';
import { XyPad } from './XyPad';

/** A control of whatever kind, ready to be played; drawn again only where it is another one. */
export const Control = memo(function Control({ control }: { control: RigControl }) {
  switch (control.kind) {
    case 'fader':
    case 'strip':
      return <Fader control={control} />;
    case 'faders':
    case 'tracks':
      return <Lanes control={control} />;
    case 'dial':
      return <Dial control={control} />;
    case 'xy':
      return <XyPad control={control} />;
    case 'push':
    case 'toggle':
      return <Push control={control} />;
    case 'radio':
      return <Choice control={control} />;
    case 'pads':
      return control.stream === undefined ? <Pads control={control} /> : <VoicePads control={control} />;
    case 'keys':
      return control.stream === undefined ? <Keys control={control} /> : <VoiceKeys control={control} />;
    case 'pitchField':
      return <PitchField control={control} />;
    case 'stepper':
      return <Stepper control={control} />;
    case 'label':
      return <Label control={control} />;
    case 'readout':
    case 'meter':
    case 'ring':
      return <Shown control={control} />;
    case 'page':
      return <PageTab control={control} />;
    case 'bank':
      return <BankTabs control={control} />;
    case 'scene':
      return <SceneButton control={control} />;
    case 'fold':
      return <FoldOut control={control} />;
    default:
      return control satisfies never;
  }
});
