import { Button, Segmented, Tooltip } from 'antd';
import { useState } from 'react';
import { align, distribute, sameSize, type Alignment, type Size } from '../../../core/surface/arrange';
import { EditPlainButton, useLocked } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { Popup } from '../shared/Popup';
import type { DesignerDesk } from './useDesigner';
import styles from './ToolBar.module.css';
import shared from '../shared/shared.module.css';

interface ToolBarProps {
  desk: DesignerDesk;
  artboard: Size;
  zoom: number;
  onZoom: (zoom: number) => void;
  trying: boolean;
  onTry: (trying: boolean) => void;
}

const ZOOMS = [1, 2, 3] as const;

/** Lines and boxes of a tool, 24 by 24. */
const ALIGN_TOOLS: readonly { how: Alignment; name: string; path: string }[] = [
  { how: 'left', name: 'Align left', path: 'M4 3v18 M7 6h12v4h-12z M7 14h7v4h-7z' },
  { how: 'centre', name: 'Align centres', path: 'M12 3v18 M5 6h14v4h-14z M8 14h8v4h-8z' },
  { how: 'right', name: 'Align right', path: 'M20 3v18 M5 6h12v4h-12z M10 14h7v4h-7z' },
  { how: 'top', name: 'Align top', path: 'M3 4h18 M6 7v12h4v-12z M14 7v7h4v-7z' },
  { how: 'middle', name: 'Align middles', path: 'M3 12h18 M6 5v14h4v-14z M14 8v8h4v-8z' },
  { how: 'bottom', name: 'Align bottom', path: 'M3 20h18 M6 5v12h4v-12z M14 10v7h4v-7z' },
];

/** What is done with what is marked, and how the canvas is looked at. */
export function ToolBar({ desk, artboard, zoom, onZoom, trying, onTry }: ToolBarProps) {
  const { chosen } = desk;
  const frames = chosen.map(({ frame }) => frame);
  const few = chosen.length < 2;
  const none = chosen.length === 0;
  return (
    <div className={styles.designerTools} role="toolbar" aria-label="Arrange">
      <div>
        {ALIGN_TOOLS.map(({ how, name, path }) => (
          <Tool key={how} name={name} path={path} disabled={few} onClick={() => desk.place(align(frames, how))} />
        ))}
      </div>
      <div>
        <Tool name="Distribute across" path="M4 4v16 M20 4v16 M9 7h6v10h-6z" disabled={few || chosen.length < 3} onClick={() => desk.place(distribute(frames, 'x', artboard))} />
        <Tool name="Distribute down" path="M4 4h16 M4 20h16 M7 9v6h10v-6z" disabled={few || chosen.length < 3} onClick={() => desk.place(distribute(frames, 'y', artboard))} />
        <Tool name="Same size as the first marked" path="M3 7h8v10h-8z M13 7h8v10h-8z" disabled={few} onClick={() => desk.place(sameSize(frames, artboard))} />
      </div>
      <div>
        <Tool name="Group (Ctrl+G)" path="M3 3h8v8h-8z M13 13h8v8h-8z M11 11l2 2" disabled={few} onClick={desk.group} />
        <Tool name="Bring to the front" path="M9 9h12v12h-12z M3 3h12v4 M3 3v12h4" disabled={none} onClick={() => desk.order('front')} />
        <Tool name="Send to the back" path="M3 3h12v12h-12z M17 9h4v12h-12v-4" disabled={none} onClick={() => desk.order('back')} />
        <Repeat desk={desk} disabled={none} />
      </div>
      <div className={styles.looking}>
        <Segmented aria-label="Zoom" value={zoom} options={ZOOMS.map((value) => ({ value, label: value === 1 ? 'Fit' : `${value}×` }))} onChange={onZoom} />
        <Button type={trying ? 'primary' : 'default'} aria-pressed={trying} onClick={() => onTry(!trying)}>
          {trying ? 'Edit again' : 'Try it'}
        </Button>
      </div>
    </div>
  );
}

function Tool({ name, path, disabled, onClick }: { name: string; path: string; disabled: boolean; onClick: () => void }) {
  return (
    <Tooltip title={name}>
      <EditPlainButton type="button" className={styles.tool} aria-label={name} disabled={disabled} onClick={onClick}>
        <svg viewBox="0 0 24 24" aria-hidden>
          <path d={path} />
        </svg>
      </EditPlainButton>
    </Tooltip>
  );
}

const MOST = 64;

/** How many across and down, and how far apart. */
function Repeat({ desk, disabled }: { desk: DesignerDesk; disabled: boolean }) {
  const locked = useLocked();
  const [open, setOpen] = useState(false);
  const [across, setAcross] = useState(4);
  const [down, setDown] = useState(1);
  const [gap, setGap] = useState(12);
  const repeat = () => {
    desk.repeat(across, down, gap, gap);
    setOpen(false);
  };
  return (
    <Popup
      open={open && !disabled && !locked}
      onOpenChange={setOpen}
      title="Repeat what is marked"
      content={
        <div className={styles.repeat}>
          <Field label="Across">
            <NumberBox label="Across" min={1} max={MOST} whole value={across} onChange={setAcross} />
          </Field>
          <Field label="Down">
            <NumberBox label="Down" min={1} max={MOST} whole value={down} onChange={setDown} />
          </Field>
          <Field label="Gap">
            <NumberBox label="Gap" min={0} max={1000} whole value={gap} onChange={setGap} />
          </Field>
          <p className={shared.quiet}>Labels and numbers count on; a number that is in use is passed over.</p>
          <Button type="primary" block disabled={across * down < 2 || across * down > 256} onClick={repeat}>
            Repeat
          </Button>
        </div>
      }
    >
      <EditPlainButton type="button" className={`${styles.tool} ${styles.wide}`} disabled={disabled}>
        Repeat…
      </EditPlainButton>
    </Popup>
  );
}
