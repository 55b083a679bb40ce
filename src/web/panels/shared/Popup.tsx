import { Popover, type PopoverProps } from 'antd';
import { useRef, type ReactNode, type RefObject } from 'react';
import { useFocusBack } from './useFocusBack';

/** Fields that open beside their button: the focus is in the first of them as they open, and back at the button as they close. */
export function Popup({ content, ...props }: Omit<PopoverProps, 'content' | 'trigger'> & { content: ReactNode }) {
  const fields = useRef<HTMLDivElement>(null);
  const enter = (open: boolean) => open && fields.current?.querySelector<HTMLElement>('input, button')?.focus({ preventScroll: true });
  return <Popover trigger="click" destroyOnHidden {...props} afterOpenChange={enter} content={<Content box={fields}>{content}</Content>} />;
}

function Content({ box, children }: { box: RefObject<HTMLDivElement | null>; children: ReactNode }) {
  useFocusBack();
  return <div ref={box}>{children}</div>;
}
