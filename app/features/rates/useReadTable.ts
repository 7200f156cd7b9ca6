/** What the page that reads a fee table works on: what was given, for which card, and what it comes to. */
import { useDeferredValue, useMemo, useState } from 'react';
import type { CardData, CardKind } from '../../../core/cards/schema.ts';
import type { MarketplaceCard, TaxCard } from '../../../core/cards/rates.ts';
import type { CellError, Tables } from '../../../core/cards/reader.ts';
import { compareCards, readTables } from '../../../core/cards/tables.ts';
import type { RowChange } from '../../../core/cards/tables.ts';
import type { Standing } from '../../../core/lane/schema.ts';
import type { Trier } from '../../../core/compare/tryItem.ts';
import { dayAfter } from '../../../core/money/days.ts';
import { roughCard } from '../../../core/schedules/rough.ts';
import type { Rough as RoughCard } from '../../../core/schedules/rough.ts';
import { givenOfText } from '../../../core/schedules/given.ts';
import type { Choices } from '../../../core/schedules/readCells.ts';
import {
  freightDraft,
  marketplaceDraft,
  postageDraft,
  withOneReferral,
} from '../../../core/schedules/toCard.ts';
import { understand, understandFreight } from '../../../core/schedules/understand.ts';
import type { FreightParts, Understood } from '../../../core/schedules/understood.ts';

export type ReadData = {
  /** The card that the table is read into; null: a new one. */
  base: { id: string; key: string; name: string; data: MarketplaceCard } | null;
  marketplaces: readonly { id: string; name: string }[];
  choices: Choices;
  tax: TaxCard | null;
  by: Trier;
  home: { country: string; currency: string };
  /** Currency of each country. */
  currencies: Readonly<Record<string, string>>;
  today: string;
  /** Standard VAT of the countries that have a tax card. */
  taxed: Readonly<Record<string, number | null>>;
  /** Standard VAT of others, as a package has it. */
  known: { rates: Readonly<Record<string, number>>; from: string };
};
/** What a table becomes, where it is no card that is there. */
export type Into = 'marketplace' | 'postage' | 'freight';
export const MODES = ['sea', 'air', 'road', 'rail', 'parcel'] as const;
export type Mode = (typeof MODES)[number];
/** Who sends what is sold. */
export type Sender = 'marketplace' | 'self';
export type Rough = RoughCard | { readonly code: 'noShares' | 'noSender' | 'noPostage' | 'noVat' };

/** What a table comes to as a card: its cells, right or wrong. */
export type Made = {
  readonly kind: CardKind;
  readonly cells: Tables;
  readonly data: CardData | null;
  readonly errors: readonly CellError[];
  readonly changes: readonly RowChange[] | null;
  readonly rough: readonly Rough[];
};

export type ReadState = ReturnType<typeof useReadTable>;
export function useReadTable(p: ReadData) {
  const [text, setText] = useState('');
  const [kind, setKind] = useState<Into>('marketplace');
  const [origin, setOrigin] = useState('');
  const [mode, setMode] = useState<Mode>('sea');
  const [name, setName] = useState('');
  const [country, setCountry] = useState(p.home.country);
  const [currency, setCurrency] = useState(p.home.currency);
  const [from, setFrom] = useState(() => firstDay(p));
  const [sender, setSender] = useState<Sender | null>(null);
  const [vat, setVat] = useState<number | null>(null);
  const [pct, setPct] = useState<number | null>(null);
  const [own, setOwn] = useState<Choices>({});
  const [standing, setStanding] = useState<Standing | null>(null);
  const late = useDeferredValue(text);
  const base = p.base?.data ?? null;
  const counted = base?.currency ?? currency;
  const understood = useMemo(
    () =>
      (base === null && kind === 'freight' ? understandFreight : understand)(givenOfText(late), counted, {
        ...p.choices,
        ...own,
      }),
    [late, counted, p.choices, own, kind, base],
  );
  const made = useMemo(
    () =>
      makeCard(
        understood,
        kind,
        { name, country, currency: counted, inForceFrom: from, origin, mode },
        base,
        pct,
      ),
    [understood, kind, name, country, counted, from, origin, mode, base, pct],
  );
  const knowsVat = vat !== null || p.taxed[country] != null || p.known.rates[country] !== undefined;
  const rough =
    made.kind !== 'marketplace' || base !== null ? made.rough : roughOf(made.rough, sender, knowsVat);
  const turnTo = (code: string): void => {
    setCountry(code);
    setCurrency(p.currencies[code] ?? currency);
    setVat(null);
  };
  const choose = (cell: string, reading: number): void => setOwn({ ...own, [cell]: reading });
  const add = (more: string): void => setText(text.trim() === '' ? more : `${text.trimEnd()}\n\n${more}`);
  return {
    text,
    setText,
    add,
    kind,
    setKind,
    origin,
    setOrigin,
    mode,
    setMode,
    name,
    setName,
    country,
    turnTo,
    currency: counted,
    setCurrency,
    from,
    setFrom,
    pct,
    setPct,
    choices: own,
    standing,
    setStanding,
    choose,
    sender,
    setSender,
    vat,
    setVat,
    understood,
    made: { ...made, rough },
  };
}

/** The first day from which a version may be in force: today, or the day after the one it follows. */
const firstDay = ({ base, today }: ReadData): string =>
  base === null || base.data.inForceFrom < today ? today : dayAfter(base.data.inForceFrom);

/** What is rough for one who sends or has sent: without a warehouse of the marketplace its fees are none. */
function roughOf(rough: readonly Rough[], sender: Sender | null, knowsVat: boolean): Rough[] {
  const warehouse = ['noWarehouse', 'noStorage', 'noSides'];
  const own =
    sender === 'self'
      ? [...rough.filter((r) => !warehouse.includes(r.code)), { code: 'noPostage' as const }]
      : rough;
  return [
    ...own,
    ...(sender === null && rough.some((r) => r.code === 'noWarehouse')
      ? [{ code: 'noSender' as const }]
      : []),
    ...(knowsVat ? [] : [{ code: 'noVat' as const }]),
  ];
}

type About = {
  name: string;
  country: string;
  currency: string;
  inForceFrom: string;
  origin: string;
  mode: Mode;
};
function makeCard(
  u: Understood,
  kind: Into,
  about: About,
  base: MarketplaceCard | null,
  pct: number | null,
): Made {
  const into = base === null ? kind : 'marketplace';
  const { origin, mode, ...head } = about;
  const cells =
    into === 'freight'
      ? freightDraft(u.freight ?? NO_FREIGHT, head, { from: origin, to: about.country, mode })
      : into === 'postage'
        ? postageDraft(u.parts, head)
        : withOneReferral(
            marketplaceDraft(u.parts, { ...head, marketplace: about.name, name: nameOf(about) }, base),
            base === null ? pct : null,
          );
  const read = readTables(into, cells);
  const changes = read.ok && base !== null ? compareCards('marketplace', base, read.data) : null;
  return {
    kind: into,
    cells,
    data: read.ok ? read.data : null,
    errors: read.ok ? [] : read.errors,
    // The day is no change of what is charged.
    changes: changes?.filter((c) => c.row !== 'inForceFrom') ?? null,
    rough: into === 'freight' ? [] : into === 'postage' ? roughPostage(cells) : roughCard(cells),
  };
}
const NO_FREIGHT: FreightParts = { legs: [], transitDays: null, insuranceRate: null };
const nameOf = ({ name, country }: About): string => (name === '' ? '' : `${name} ${country}`);

const roughPostage = (cells: Tables): Rough[] =>
  (cells.zones?.length ?? 0) > 1 ? [{ code: 'noShares' }] : [];
