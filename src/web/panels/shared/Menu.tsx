import { Dropdown, type MenuProps } from 'antd';
import { useRef, type ReactElement } from 'react';

type Item = NonNullable<MenuProps['items']>[number];

export interface MenuParts {
  items: Item[];
  disabled?: boolean | undefined;
  /** The button that opens it. */
  children: ReactElement;
}

/**
 * A menu under a button. Its keys are in it as soon as it opens, and the focus is at the button again before an item does what
 * it does: what that opens gives it back there.
 */
export function Menu({ items, disabled, children }: MenuParts) {
  const opener = useRef<HTMLElement | null>(null);
  const giveBack = () => opener.current?.focus({ preventScroll: true });
  // A press elsewhere closes it as well, and takes the focus there after this.
  const turn = (open: boolean) => {
    if (open) opener.current = document.activeElement as HTMLElement;
    else giveBack();
  };
  const chosen: MenuProps['onClick'] = ({ domEvent }) => {
    giveBack();
    // Or the key that chose would press the button, too.
    if (domEvent.type === 'keydown') domEvent.preventDefault();
  };
  return (
    <Dropdown autoFocus trigger={['click']} {...(disabled !== undefined && { disabled })} onOpenChange={turn} menu={{ items: items.map((item) => withFirst(item, chosen)) }}>
      {children}
    </Dropdown>
  );
}

/** The same item, or group of items, which does this before all else. */
function withFirst(item: Item, first: NonNullable<MenuProps['onClick']>): Item {
  if (!item) return item;
  if ('children' in item) return { ...item, children: item.children?.map((child) => withFirst(child, first)) } as Item;
  if (!('onClick' in item)) return item;
  const { onClick } = item;
  return { ...item, onClick: (info) => (first(info), onClick?.(info)) } as Item;
}
