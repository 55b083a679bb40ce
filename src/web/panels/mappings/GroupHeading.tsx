import { placed, type RowPlace } from './rowPlace';
import bands from './bands.module.css';

interface GroupHeadingProps extends RowPlace {
  group: string;
  count: number;
  folded: boolean;
  onFold: () => void;
}

export function GroupHeading({ group, count, folded, onFold, ...place }: GroupHeadingProps) {
  return (
    <li className={bands.bandHeading} {...placed(place)}>
      <button type="button" aria-expanded={!folded} onClick={onFold}>
        <span aria-hidden>{folded ? '▸' : '▾'}</span> {group} <small>{count}</small>
      </button>
    </li>
  );
}
