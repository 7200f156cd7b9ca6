/** The assumptions of the list, and the cards it is weighed with. */
import { useMemo } from 'react';
import { Assumptions } from './Assumptions.tsx';
import { WeighedWith } from './ListCards.tsx';
import type { ListData } from './listData.ts';
import type { useSettings } from './useSettings.ts';

const NONE: readonly never[] = [];

export function AssumptionsPane({
  data: p,
  settings,
  strange,
}: {
  data: ListData;
  settings: ReturnType<typeof useSettings>;
  strange: Parameters<typeof Assumptions>[0]['strange'] | undefined;
}) {
  const hasBasis = useMemo(() => p.list.has.filter((r) => r === 'price30' || r === 'price90'), [p.list.has]);
  return (
    <>
      <Assumptions
        own={settings.own}
        onChange={settings.setOwn}
        home={p.home}
        sales={p.screen.currency}
        categories={p.screen.rates.marketplace?.categories ?? NONE}
        hasBasis={hasBasis}
        strange={strange ?? NONE}
        saved={settings.saved}
        canEdit={p.canEdit}
      />
      <WeighedWith cards={p.cards} />
    </>
  );
}
