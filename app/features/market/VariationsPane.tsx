/** Variations of the listing: share by ratings, units, price, own cost and stock at the source; which few pay. */
import type { VariationSaid } from '../../../core/evidence/keeps.ts';
import type { Watch } from '../../../core/evidence/observed.ts';
import { NumField } from '../../ui/Field.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { From } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useKeeps } from './useKeeps.ts';
import { useWords } from '../../ui/useWords.ts';

export function VariationsPane(p: PaneProps) {
  const { t } = useWords();
  const f = useFormat();
  const keeps = useKeeps(p.market.view);
  const all = p.market.said.variations;
  const c = p.market.view.doc.currency;
  if (all.length === 0) return null;
  const { goods } = p.market.view.doc;
  // A cost of one's own needs a quote whose currency it is in.
  const quoted = Array.isArray(goods) ? (goods[0]?.source.currency ?? null) : null;
  const own = (v: VariationSaid, change: Partial<Watch['variations'][string]>) =>
    p.decide({ variations: { [v.code]: { cost: v.cost, stock: v.stock, ...change } } });
  const pay = all.filter((v) => (v.unitProfit ?? 0) > 0).length;
  return (
    <Pane
      title={t('market.variations.title')}
      aside={
        <>
          {t('market.variations.aside', { count: pay })} · <From kind="units" {...p} />
        </>
      }>
      <FigureTable label={t('market.variations.title')}>
        <thead>
          <tr>
            {(['name', 'share', 'units', 'price', 'cost', 'stock', 'keeps'] as const).map((k) => (
              <th scope="col" key={k}>
                {t(`market.variations.${k}`, { currency: quoted ?? '' })}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {all.map((v) => (
            <tr key={v.code}>
              <th scope="row" style={{ fontWeight: v.code === p.watch.variation ? 700 : 400 }}>
                {v.name || v.code}
              </th>
              <td>{v.share.known ? f.percent(v.share.expected, 0) : '–'}</td>
              <td>{f.number(v.units === null ? null : Math.floor(v.units), 0)}</td>
              <td>{f.plain(v.price, c)}</td>
              <OwnNumber
                label={t('market.variations.costOf', { name: v.name || v.code })}
                value={v.cost}
                onChange={p.canEdit && quoted !== null ? (cost) => own(v, { cost }) : null}
              />
              <OwnNumber
                label={t('market.variations.stockOf', { name: v.name || v.code })}
                value={v.stock}
                onChange={p.canEdit ? (stock) => own(v, { stock }) : null}
              />
              <td>
                <b>{keeps.plain(v.unitProfit)}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
      <TableFile
        table={() => ({
          name: `${p.market.view.doc.country} ${t('market.variations.title')}`,
          columns: ['code', 'name', 'share', 'units', 'price', 'my cost', 'stock', 'unit profit'].map(
            (title) => ({ title }),
          ),
          rows: all.map((v) => [
            v.code,
            v.name,
            v.share.known ? v.share.expected : null,
            v.units,
            v.price,
            v.cost,
            v.stock,
            v.unitProfit,
          ]),
        })}
      />
    </Pane>
  );
}

/** A figure of one's own in a cell; null: it can only be read. */
function OwnNumber({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null;
  onChange: ((value: number | null) => void) | null;
}) {
  const f = useFormat();
  return (
    <td>
      {onChange === null ? (
        f.number(value)
      ) : (
        <NumField inTable kind="number" width={84} label={label} value={value} onChange={onChange} />
      )}
    </td>
  );
}
