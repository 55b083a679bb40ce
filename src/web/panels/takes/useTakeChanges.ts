import { useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';
import { useRef, useState } from 'react';
import type { Mark } from '../../../core/takes/take';
import type { TidyStep } from '../../../core/takes/tidy';
import { deleteTake, patchTake, patchVersion } from './fetchTakes';

/**
 * What is still on its way: steps by version, and the marks. Shown at once, whatever an answer says that was asked for before, and what the
 * next change builds on.
 */
interface Ahead {
  recipes: Readonly<Record<string, TidyStep[]>>;
  marks: Mark[] | null;
}

const NOTHING_AHEAD: Ahead = { recipes: {}, marks: null };

export interface TakeChanges {
  ahead: Ahead;
  /** Does something to the take after all that was begun before, and says what became of it where that is nothing good. */
  attempt(work: () => Promise<unknown>): void;
  tidy(version: string, recipe: TidyStep[]): void;
  mark(marks: Mark[]): void;
  remove(): void;
}

/**
 * What is done to a take. To be used where the take is read, by whatever has its query: what is ahead is let go of as soon as the query knows it,
 * and whoever had that from a parent would show the take for a moment as it was before, and begin its fields anew.
 */
export function useTakeChanges(id: string, onChange: () => void): TakeChanges {
  const client = useQueryClient();
  const { message } = App.useApp();
  const [ahead, setAhead] = useState(NOTHING_AHEAD);
  // One after another, or of two changes the earlier might come last; and looked at again when the last has come.
  const line = useRef<{ done: Promise<unknown>; waiting: number; isGone: boolean }>({ done: Promise.resolve(), waiting: 0, isGone: false });
  const attempt = (work: () => Promise<unknown>) => {
    line.current.waiting++;
    line.current.done = line.current.done
      .then(work)
      .catch((error: Error) => message.error(error.message, 8))
      .finally(() => {
        onChange();
        if (--line.current.waiting > 0 || line.current.isGone) return;
        void client.invalidateQueries({ queryKey: ['take', id] }).then(() => line.current.waiting === 0 && setAhead(NOTHING_AHEAD));
      });
  };
  return {
    ahead,
    attempt,
    tidy: (version, recipe) => {
      setAhead((now) => ({ ...now, recipes: { ...now.recipes, [version]: recipe } }));
      attempt(() => patchVersion(id, version, { recipe }));
    },
    mark: (marks) => {
      setAhead((now) => ({ ...now, marks }));
      attempt(() => patchTake(id, { marks }));
    },
    remove: () => attempt(() => deleteTake(id).then(() => (line.current.isGone = true))),
  };
}
