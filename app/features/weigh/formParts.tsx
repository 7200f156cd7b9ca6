/** What the forms of a sheet share: choices, the line that a card fills, a purchased amount. */
import { useRevalidator } from 'react-router';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { useStore, useValue } from './store.ts';
import { useWords } from '../../ui/useWords.ts';

export type CardHeads = readonly {
  id: string;
  kind: string;
  key: string;
  name: string;
  inForceFrom: string;
}[];

export type FormProps = { laneId: string; candidateId: string; doc: LaneDocument; cardHeads?: CardHeads };

/** A route or postage taken from a rate card, or typed on the lane itself. */
export function FromCard({
  laneId,
  field,
  kind,
  cardHeads,
  typed,
}: {
  laneId: string;
  field: 'freightCardId' | 'postageCardId';
  kind: 'freight' | 'postage';
  cardHeads: CardHeads;
  typed: () => { path: string; to: unknown };
}) {
  const { t } = useWords();
  const store = useStore();
  const { revalidate } = useRevalidator();
  const value = (useValue('lane', laneId, [field]) as string | null | undefined) ?? '';
  const own = cardHeads.filter((c) => c.kind === kind);
  const known = value === '' || own.some((c) => c.id === value);
  return (
    <SearchChoice
      label={t('form.fromCard')}
      value={value}
      width={230}
      options={[
        { value: '', label: t('form.typedHere') },
        ...own.map((c) => ({ value: c.id, label: c.name })),
        ...(known ? [] : [{ value, label: '…' }]),
      ]}
      onChange={(id) => {
        if (id === '') {
          const { path, to } = typed();
          store.edit([
            { entity: 'lane', id: laneId, path: [path], to },
            { entity: 'lane', id: laneId, path: [field], to: null },
          ]);
          return;
        }
        store.edit([{ entity: 'lane', id: laneId, path: [field], to: id }]);
        // The card's own figures come from the server.
        void store.flush().then(() => revalidate());
      }}
    />
  );
}

export const same = (list: readonly string[]) => list.map((v) => ({ value: v, label: v }));

/** Something bought, opened and not filled in. */
export const purchased = (currency: string) => ({
  amount: null,
  currency,
  vat: 'none',
  vatRate: 0,
  recoverable: null,
});

export function useVatOptions() {
  const { t } = useWords();
  return (['none', 'included', 'added'] as const).map((v) => ({ value: v, label: t(`vat.${v}`) }));
}

export const yesNo = (t: (k: string) => string) => [
  { value: 'yes', label: t('yes') },
  { value: 'no', label: t('no') },
];
