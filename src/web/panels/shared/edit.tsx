import { Button, Checkbox, ColorPicker, Input, InputNumber, Segmented, Select, Slider, Switch, type InputNumberProps, type SegmentedProps, type SelectProps, type SliderSingleProps } from 'antd';
import { createContext, createElement, useContext, type ComponentType, type JSX, type ReactNode } from 'react';
import { Menu } from './Menu';

const LockContext = createContext(false);

/** Locks what edits within it, on Stage for instance. What is locked further out stays so. */
export function Locked({ when, children }: { when: boolean; children: ReactNode }) {
  const outside = useContext(LockContext);
  return <LockContext value={outside || when}>{children}</LockContext>;
}

/** Whether nothing may be edited here now. */
export const useLocked = (): boolean => useContext(LockContext);

/**
 * A control that edits: one that may not be used where all is locked. Whatever only looks, opens or plays is the plain
 * control, and works on Stage too. The theme's own switch for whole areas cannot say this: it takes every control within.
 */
function editing<P extends { disabled?: boolean | undefined }>(control: ComponentType<P> | keyof JSX.IntrinsicElements) {
  return function Editing(props: P): JSX.Element {
    const locked = useLocked();
    return createElement(control as ComponentType<P>, { ...props, disabled: locked || props.disabled === true });
  };
}

export const EditButton = editing(Button);
export const EditCheckbox = editing(Checkbox);
export const EditColor = editing(ColorPicker);
export const EditMenu = editing(Menu);
export const EditInput = editing(Input);
export const EditText = editing(Input.TextArea);
export const EditNumber = editing(InputNumber<number>) as (props: InputNumberProps<number>) => JSX.Element;
export const EditSegmented = editing(Segmented) as <T extends string | number>(props: SegmentedProps<T>) => JSX.Element;
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- as the control itself: what it holds is not known before its options are.
export const EditSelect = editing(Select) as <V = any>(props: SelectProps<V>) => JSX.Element;
export const EditSlider = editing<SliderSingleProps & { disabled?: boolean }>(Slider);
export const EditSwitch = editing(Switch);
/** A button without the theme's looks. */
export const EditPlainButton = editing<JSX.IntrinsicElements['button']>('button');
export const EditFieldset = editing<JSX.IntrinsicElements['fieldset']>('fieldset');
