import type { RigEdit } from './edit';

/** One edit in the history of a rig. */
export interface HistoryStep {
  /** The revision that it made. */
  number: number;
  /** The revision that it takes back, or makes again; null for an edit of its own. */
  undoes: number | null;
  redoes: number | null;
  /** Made by Pumice itself, when something arrived: nobody's to take back. */
  byItself?: boolean;
}

/** Which revisions can be taken back and made again now, the next one last. A new edit ends what could be made again. */
export function undoStacks(steps: readonly HistoryStep[]): { undo: number[]; redo: number[] } {
  const undo: number[] = [];
  const redo: number[] = [];
  for (const { number, undoes, redoes, byItself } of steps) {
    if (byItself) continue;
    if (undoes !== null) {
      if (undo.at(-1) === undoes) undo.pop();
      redo.push(undoes);
    } else if (redoes !== null) {
      if (redo.at(-1) === redoes) redo.pop();
      undo.push(redoes);
    } else {
      undo.push(number);
      redo.length = 0;
    }
  }
  return { undo, redo };
}

/** What an edit moves, so that many small ones of one drag or one number that is spun count as one step; null: never. */
export function editTarget(edit: RigEdit): string | null {
  switch (edit.kind) {
    case 'setMapping':
      return `mapping ${edit.mapping} ${Object.keys(edit.set).sort().join(' ')}`;
    case 'setVoiceMapping':
      return `voice mapping ${edit.voiceMapping} ${Object.keys(edit.set).sort().join(' ')}`;
    case 'setMember':
      return `member ${edit.member} ${Object.keys(edit.set).sort().join(' ')}`;
    case 'setInput':
      return `input ${edit.input} ${Object.keys(edit.set).sort().join(' ')}`;
    case 'setSignal':
      return `signal ${edit.signal} ${Object.keys(edit.set).sort().join(' ')}`;
    case 'setRig':
      return `rig ${Object.keys(edit.set).sort().join(' ')}`;
    case 'change':
      return null;
    default:
      return edit satisfies never;
  }
}
