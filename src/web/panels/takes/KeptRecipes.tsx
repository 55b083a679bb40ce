import { useState } from 'react';
import type { TidyStep } from '../../../core/takes/tidy';
import type { KeptRecipes as Kept } from '../../../protocol/takesSchema';
import { fetchRecipes, putRecipes } from '../../live/fetchRig';
import { EditButton, EditInput, EditSelect } from '../shared/edit';
import { useSettings, type SettingsPlace } from '../shared/useSettings';
import styles from './takes.module.css';

const PLACE: SettingsPlace<Kept> = { key: 'recipes', fetch: fetchRecipes, put: putRecipes };

/** Keeps the steps under a name, and takes kept ones. */
export function KeptRecipes({ recipe, onTake }: { recipe: readonly TidyStep[]; onTake: (steps: TidyStep[]) => void }) {
  const { settings, change } = useSettings(PLACE);
  const [name, setName] = useState('');
  const recipes = settings?.recipes ?? [];
  const keep = () => {
    void change((before) => ({ recipes: [...before.recipes.filter((one) => one.name !== name.trim()), { name: name.trim(), steps: [...recipe] }] }));
    setName('');
  };
  return (
    <div className={styles.kept}>
      {recipes.length > 0 && (
        <EditSelect
          aria-label="Take kept steps"
          placeholder="Take kept steps…"
          value={null}
          options={recipes.map((one) => ({ value: one.name, label: `${one.name} · ${one.steps.length}` }))}
          onChange={(chosen: string | null) => onTake(recipes.find((one) => one.name === chosen)?.steps ?? [])}
        />
      )}
      {recipe.length > 0 && (
        <span>
          <EditInput aria-label="Name to keep these steps under" placeholder="Keep these steps as…" maxLength={80} value={name} onChange={(event) => setName(event.target.value)} onPressEnter={() => name.trim() && keep()} />
          <EditButton disabled={name.trim() === ''} onClick={keep}>
            Keep
          </EditButton>
        </span>
      )}
    </div>
  );
}
