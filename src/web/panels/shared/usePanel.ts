import { useEffect, useRef, type RefObject } from 'react';
import { useFocusBack } from './useFocusBack';

/**
 * What every panel that opens beside a list does: the focus enters it and goes back to where it came from, and Escape
 * closes it. Escape in a menu, a picker or a number that is being typed is theirs alone.
 */
export function usePanel<T extends HTMLElement>(onClose: () => void): RefObject<T | null> {
  useFocusBack();
  const panel = useRef<T>(null);
  const close = useRef(onClose);
  useEffect(() => {
    close.current = onClose;
  }, [onClose]);
  useEffect(() => {
    const element = panel.current;
    // What asks for the focus by itself has it already.
    if (element && !element.contains(document.activeElement)) element.focus({ preventScroll: true });
    const press = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || event.defaultPrevented || document.querySelector('.ant-select-dropdown:not(.ant-select-dropdown-hidden), .ant-modal-wrap:not([style*="display: none"]), .ant-dropdown:not(.ant-dropdown-hidden), .ant-popover:not(.ant-popover-hidden)')) return;
      close.current();
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, []);
  return panel;
}
