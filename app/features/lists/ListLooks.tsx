/** Looks at a list: views under a name, its columns, and what is taken along of what is shown. */
import { Button } from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { ListLook, ListQuery } from '../../../core/lists/query.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import { ColumnsDialog, ViewDialog } from './Dialogs.tsx';
import type { View } from './listData.ts';
import { ExportMenu, ViewMenu } from './ListMenus.tsx';
import type { Columns } from './useColumns.ts';
import type { useAct } from './useDecisions.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  url: string;
  views: readonly View[];
  extras: readonly string[];
  canEdit: boolean;
  columns: Columns;
  query: ListQuery;
  /** Settings that are tried and not saved; null: as the list has them. */
  tried: ListSettings | null;
  assumptions: ListSettings['assumptions'];
  act: ReturnType<typeof useAct>['act'];
  onApply: (look: ListLook, assumptions: ListSettings['assumptions'] | null) => void;
};

export function ListLooks({
  url,
  views,
  extras,
  canEdit,
  columns,
  query,
  tried,
  assumptions,
  act,
  onApply,
}: Props) {
  const { t } = useWords();
  const navigate = useNavigate();
  const [shown, setViews] = useState(views);
  const [menu, setMenu] = useState<{ el: HTMLElement; which: 'view' | 'export' } | null>(null);
  const [dialog, setDialog] = useState<'columns' | 'view' | null>(null);
  const closeMenu = (): void => setMenu(null);
  const save = (name: string, with_: Props['assumptions'] | null): void => {
    const look = { columns: columns.shown, query };
    const others = shown.filter((v) => v.name.toLowerCase() !== name.toLowerCase());
    void act({ what: 'saveView', name, look, assumptions: with_ })
      .then((got) => got !== null && setViews([...others, { id: name, name, look, assumptions: with_ }]))
      .then(() => navigate('.', { replace: true, preventScrollReset: true }));
  };
  return (
    <>
      {(['view', 'export'] as const).map((which) => (
        <Button
          key={which}
          size="small"
          aria-haspopup="menu"
          onClick={(e) => setMenu({ el: e.currentTarget, which })}>
          {t(`list.${which}`)} ▾
        </Button>
      ))}
      <ViewMenu
        el={menu?.which === 'view' ? menu.el : null}
        onClose={closeMenu}
        views={shown}
        canEdit={canEdit}
        onApply={onApply}
        onRemove={(id) => {
          setViews(shown.filter((x) => x.id !== id));
          void act({ what: 'removeView', id });
        }}
        onColumns={() => setDialog('columns')}
        onSave={() => setDialog('view')}
      />
      <ExportMenu
        el={menu?.which === 'export' ? menu.el : null}
        onClose={closeMenu}
        url={url}
        query={query}
        tried={tried}
      />
      {dialog === 'columns' && (
        <ColumnsDialog
          columns={columns.shown}
          can={columns.can}
          extras={extras}
          onChange={columns.set}
          onClose={() => setDialog(null)}
          titled={columns.titled}
        />
      )}
      {dialog === 'view' && (
        <ViewDialog
          onClose={() => setDialog(null)}
          onSave={(name, withAssumptions) => {
            setDialog(null);
            save(name, withAssumptions ? assumptions : null);
          }}
        />
      )}
    </>
  );
}
