/** A check as one makes it: the goods in one's hand, the price on the shelf, and what comes of it at each key. */
import { useMemo, useState } from 'react';
import type { CheckKit } from '../../../between/checkKit.ts';
import { basisFor, checkSaid, gistOf, laneOfCheck, sellsAt } from '../../../core/check/check.ts';
import type { Checked } from '../../../core/check/check.ts';
import type { ShelfCheck, TillTerms } from '../../../core/check/schema.ts';
import { useGoods } from './useGoods.ts';
import { useTerms } from './useTerms.ts';

/** What belongs to these goods alone, and is blank again for the next. */
const FRESH = {
  name: '',
  shelf: null as number | null,
  take: 1,
  boughtPack: 1,
  typedPrice: null as number | null,
  typed: { sides: null, kg: null, category: null } as Checked['typed'],
};
export type Own = typeof FRESH;

/** `first`: goods that the page is opened with; blank: none. */
export function useCheck(kit: CheckKit, root: string, first = '') {
  const firstTill: TillTerms = {
    currency: kit.settings.homeCurrency,
    off: 0,
    coupon: 0,
    cashback: 0,
    salesTax: 0,
    vatRate: 0,
  };
  const { terms, change } = useTerms(root, { market: kit.market ?? '', till: firstTill, basis: 'mean90' });
  const market = kit.markets.find((m) => m.key === terms.market) ?? kit.markets[0] ?? null;
  const { goods, setText } = useGoods(root, market?.key ?? '', first);
  const [own, setOwn] = useState<Own>(FRESH);
  const [chosen, setChosen] = useState(0);
  /** The check that was taken back, whose place this one takes. */
  const [again, setAgain] = useState<ShelfCheck | null>(null);
  const listings = goods.said?.listings ?? again?.listing ?? [];
  const all = Array.isArray(listings) ? listings : [listings];
  const listing = all[chosen % Math.max(1, all.length)] ?? null;
  const basis = own.typedPrice !== null || listing === null ? 'typed' : basisFor(listing, terms.basis);
  const checked: Checked | null = useMemo(
    () =>
      market === null
        ? null
        : {
            gtin: goods.recognised.kind === 'barcode' ? goods.recognised.gtin : (again?.gtin ?? null),
            name: own.name || (goods.recognised.kind === 'words' ? goods.recognised.words : ''),
            market: market.key,
            cards: market.cards,
            listing,
            typed: own.typed,
            basis,
            typedPrice: own.typedPrice,
            shelf: own.shelf,
            till: terms.till,
            take: own.take,
            boughtPack: own.boughtPack,
          },
    [market, goods.recognised, again, own, listing, basis, terms.till],
  );
  const doc = useMemo(() => (checked === null ? null : laneOfCheck(checked, kit)), [checked, kit]);
  const said = useMemo(
    () =>
      doc === null ? null : checkSaid(doc, kit.settings.hurdles.retail ?? [], listing?.permission ?? null),
    [doc, kit, listing],
  );
  const renew = (): void => {
    setText('');
    setOwn(FRESH);
    setChosen(0);
    setAgain(null);
  };
  return {
    goods,
    setText: (text: string) => {
      setText(text);
      setChosen(0);
      setAgain(null);
    },
    terms,
    changeTerms: change,
    market,
    own,
    change: (part: Partial<Own>) => setOwn({ ...own, ...part }),
    listings: all,
    listing,
    chosen,
    choose: setChosen,
    checked,
    price: checked === null ? null : sellsAt(checked),
    doc,
    said,
    gist: doc === null || said === null ? null : gistOf(doc, said),
    renew,
    /** Puts a check back into one's hand, to decide anew. */
    takeBack: (c: ShelfCheck): void => {
      const { name, shelf, take, boughtPack, typedPrice, typed } = c;
      setText(c.gtin ?? c.listing?.code ?? '');
      setOwn({ name, shelf, take, boughtPack, typedPrice, typed });
      setChosen(0);
      setAgain(c);
    },
    again,
    /** Whether there is something to keep or leave. */
    hasGoods: goods.text.trim() !== '' || own.name !== '' || own.shelf !== null,
  };
}
export type Check = ReturnType<typeof useCheck>;
