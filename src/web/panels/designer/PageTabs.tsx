import { App } from 'antd';
import type { RigSurface } from '../../../core/rig/document';
import { freeId, freeName } from '../../../core/rig/naming';
import { withControls } from '../../../core/surface/controls';
import { removeControls, clipOf, pasteClip } from '../../../core/surface/copy';
import type { Spot } from '../../../core/surface/make';
import { EditButton } from '../shared/edit';
import { NameField } from '../shared/NameField';
import type { DesignerDesk } from './useDesigner';
import styles from './PageTabs.module.css';

interface PageTabsProps {
  surface: RigSurface;
  spot: Spot;
  desk: DesignerDesk;
  onTurn: (spot: Spot) => void;
  /** Told once somebody chose a page that is there. */
  onTurned: () => void;
}

/** The pages of the surface: turned to, named, made, copied, taken away. */
export function PageTabs({ surface, spot, desk, onTurn, onTurned }: PageTabsProps) {
  const { message } = App.useApp();
  const { work, stage, reportWithout } = desk;
  const put = (pages: RigSurface['pages']) => work((bench) => bench.put({ list: 'surfaces', id: surface.id, to: { ...bench.surface(surface.id), pages } }));
  const freePage = (wanted: string) => ({ id: freeId(wanted, new Set(surface.pages.map(({ id }) => id))), name: freeName(wanted, surface.pages.map(({ name }) => name)) });
  const add = () => {
    const page = freePage('Page');
    put([...surface.pages, { ...page, controls: [] }]);
    onTurn({ surface: surface.id, page: page.id });
  };
  const copy = () => {
    const from = surface.pages.find(({ id }) => id === spot.page)!;
    const page = freePage(from.name);
    const pasted = work((bench) => {
      bench.put({ list: 'surfaces', id: surface.id, to: { ...surface, pages: [...surface.pages, { ...page, controls: [] }] } });
      return pasteClip(bench, { surface: surface.id, page: page.id }, clipOf(bench.rig, from.controls), { dx: 0, dy: 0 });
    });
    reportWithout(pasted);
    onTurn({ surface: surface.id, page: page.id });
  };
  const remove = () => {
    const page = surface.pages.find(({ id }) => id === spot.page)!;
    work((bench) => {
      removeControls(bench, spot, page.controls.map(({ id }) => id));
      const left = withControls(bench.surface(surface.id), (control) => (control.kind === 'page' && control.page === page.id ? { ...control, page: null } : control));
      const scenes = bench.rig.scenes.filter(({ pages }) => pages[surface.id] === page.id);
      for (const scene of scenes) bench.put({ list: 'scenes', id: scene.id, to: { ...scene, pages: Object.fromEntries(Object.entries(scene.pages).filter(([id]) => id !== surface.id)) } });
      bench.put({ list: 'surfaces', id: surface.id, to: { ...left, pages: left.pages.filter(({ id }) => id !== page.id) } });
    });
    onTurn({ surface: surface.id, page: surface.pages.find(({ id }) => id !== page.id)!.id });
    void message.info(`${page.name} is gone with its controls; Ctrl+Z brings it back.`);
  };
  return (
    <div className={styles.pageTabs}>
      {surface.pages.map((page) => (
        <div key={page.id} className={styles.pageTab} data-on={page.id === spot.page}>
          {page.id === spot.page && !stage ? (
            <NameField label="Name of the page" name={page.name} onChange={(name) => put(surface.pages.map((other) => (other.id === page.id ? { ...other, name } : other)))} />
          ) : (
            <button
              type="button"
              aria-current={page.id === spot.page}
              onClick={() => {
                onTurn({ surface: surface.id, page: page.id });
                onTurned();
              }}
            >
              {page.name}
            </button>
          )}
        </div>
      ))}
      <EditButton type="text" onClick={add}>
        + Page
      </EditButton>
      <EditButton type="text" onClick={copy}>
        Copy page
      </EditButton>
      <EditButton type="text" disabled={surface.pages.length < 2} onClick={remove}>
        Delete page
      </EditButton>
    </div>
  );
}
