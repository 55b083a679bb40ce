import { Modal, type ModalProps } from 'antd';
import { useRef, type FocusEvent, type KeyboardEvent } from 'react';
import { useLocked } from './edit';
import { useFocusBack } from './useFocusBack';

interface DialogProps extends Omit<ModalProps, 'open' | 'onOk' | 'afterOpenChange'> {
  /** It asks for a line of text, which has the focus as it opens. */
  asksForText?: boolean;
  /** Does what it asks about; that is an edit, which nobody makes where all is locked. */
  onOk?: () => void;
}

/** A line of text, and no list that is searched and no number: their Enter is their own. So is that of a line which keeps it from others. */
const isLine = (target: EventTarget): target is HTMLInputElement => target instanceof HTMLInputElement && target.type === 'text' && !target.role;

/**
 * A window in front of everything else, open for as long as it is there. Enter in a line of text is its main button, Escape
 * closes it, and the focus is back where it was.
 */
export function Dialog({ asksForText = false, onOk, okButtonProps, children, ...props }: DialogProps) {
  useFocusBack();
  const disabled = useLocked() || okButtonProps?.disabled === true;
  const box = useRef<HTMLDivElement>(null);
  // Before this it is hidden, and takes no focus.
  const opened = (open: boolean) => open && asksForText && [...box.current!.querySelectorAll('input')].find(isLine)?.focus();
  const press = (event: KeyboardEvent) => {
    // One that is still held from what opened it, or that chooses among what may be written (IME), is none of its own.
    if (event.key !== 'Enter' || event.repeat || event.nativeEvent.isComposing || event.defaultPrevented || !isLine(event.target) || disabled) return;
    // Or the key would press what has the focus next.
    event.preventDefault();
    onOk?.();
  };
  // What is typed first takes the place of what is proposed.
  const enter = ({ target }: FocusEvent) => isLine(target) && target.select();
  return (
    <Modal open {...props} okButtonProps={{ ...okButtonProps, disabled }} {...(onOk && { onOk: () => onOk() })} afterOpenChange={opened}>
      <div ref={box} onKeyDown={press} onFocus={enter}>
        {children}
      </div>
    </Modal>
  );
}
