/** A value of an uncertain input as people read it: money, pieces, a share, a factor. */
import type { LaneDocument } from '../../../core/lane/schema.ts';
import type { RiskInput } from '../../../core/risk/schema.ts';
import { useFormat } from '../../ui/locale.ts';

export function useInputText(doc: LaneDocument): (input: RiskInput, x: number) => string {
  const f = useFormat();
  const quoted = Array.isArray(doc.goods) ? (doc.goods[0]?.source.currency ?? doc.currency) : doc.currency;
  return (input, x) => {
    if (input === 'price') return f.money(x, doc.currency);
    if (input === 'unitCost') return f.money(x, quoted);
    if (input === 'returnRate') return f.percent(x, 1);
    if (input === 'units') return f.number(x, 0);
    return `× ${f.number(x, 2)}`;
  };
}
