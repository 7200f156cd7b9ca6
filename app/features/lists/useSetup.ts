/** What the set-up of a list says, and how one thing changed changes another. */
import { useState } from 'react';
import { useSubmit } from 'react-router';
import { guessMap, headerAmong, mapIssues } from '../../../core/lists/map.ts';
import type { ListMap } from '../../../core/lists/map.ts';
import type { Role } from '../../../core/lists/roles.ts';
import type { Choice } from '../../../core/lists/reference.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import type { ListSetup, SetupChoices } from '../../../core/lists/setup.ts';

export type Check = {
  id: string;
  state: string;
  done: number;
  total: number;
  error: string | null;
  valid: number;
  invalid: number;
  repaired: number;
  completed: number;
  troubles: Record<string, number>;
};
export type SetupData = SetupChoices & {
  list: {
    id: string;
    name: string;
    file: { name: string; bytes: number; kind: string };
    sheet: string | null;
    previousId: string | null;
    hasRun: boolean;
    mapped: boolean;
    reference: { file: { name: string }; sheet: string | null; map: ListMap; choice: Choice } | null;
  };
  supplierName: string;
  home: string;
  check: Check | null;
  refused: boolean;
  root: string;
  canEdit: boolean;
  error: string | null;
};
export type Setup = ReturnType<typeof useSetup>;

export function useSetup(p: SetupData) {
  const submit = useSubmit();
  const [name, setName] = useState(p.list.name);
  const [supplier, setSupplier] = useState(p.supplierName);
  const [sheet, setSheet] = useState(p.list.sheet);
  const [map, setMap] = useState(p.map);
  const [own, setOwn] = useState(p.own);
  const [previousId, setPrevious] = useState(p.list.previousId);
  const [choice, setChoice] = useState<Choice>(p.list.reference?.choice ?? 'sellsFastest');
  const [without, setWithout] = useState(false);

  const rows = (p.sheets.find((s) => s.name === (sheet ?? '')) ?? p.sheets[0])?.rows ?? [];
  const at = headerAmong(rows, map);
  const header = (rows[at] ?? []).map((c) => c.trim());
  const market = p.markets.find((m) => m.id === own.marketplaceCardId) ?? null;
  const issues = mapIssues(map, header);

  const turnTo = (to: string): void => {
    setSheet(to);
    const next = p.sheets.find((s) => s.name === to)?.rows ?? [];
    const h = headerAmong(next);
    setMap(
      guessMap(
        (next[h] ?? []).map((c) => c.trim()),
        next.slice(h + 1),
      ),
    );
  };
  const assign = (role: Role, heading: string): void => {
    const columns = { ...map.columns };
    // A column says one thing: what it said before is asked for again.
    for (const [r, h] of Object.entries(columns)) if (h === heading) delete columns[r as Role];
    if (heading === '') delete columns[role];
    else columns[role] = heading;
    setMap({ ...map, columns, extras: map.extras.filter((h) => h !== heading) });
  };
  const take = (value: string): void => {
    setSupplier(value);
    const known = p.suppliers.find((s) => s.name.toLowerCase() === value.trim().toLowerCase());
    if (known === undefined) return;
    if (known.map !== null && mapIssues(known.map, header).length === 0) setMap(known.map);
    if (known.currency !== null)
      setOwn({
        ...own,
        assumptions: {
          ...own.assumptions,
          purchase: { ...own.assumptions.purchase, currency: known.currency },
        },
      });
  };
  const set = (over: Partial<ListSettings>): void => setOwn({ ...own, ...over });
  const assume = (over: Partial<ListSettings['assumptions']>): void =>
    set({ assumptions: { ...own.assumptions, ...over } });
  const buy = (over: Partial<ListSettings['assumptions']['purchase']>): void =>
    assume({ purchase: { ...own.assumptions.purchase, ...over } });
  const sellOn = (id: string): void => {
    const m = p.markets.find((x) => x.id === id);
    if (m === undefined) return;
    set({
      marketplaceCardId: id,
      country: m.country,
      assumptions: {
        ...own.assumptions,
        method: m.hasWarehouse ? own.assumptions.method : 'ownDispatch',
        category:
          own.assumptions.category !== null && m.categories.some((c) => c.key === own.assumptions.category)
            ? own.assumptions.category
            : null,
      },
    });
  };
  const send = (then: 'check' | 'run'): void => {
    const { reference } = p.list;
    const setup: ListSetup = {
      name,
      supplier: supplier.trim(),
      sheet,
      map,
      settings: own,
      previousId,
      reference:
        reference === null || without ? null : { map: reference.map, sheet: reference.sheet, choice },
    };
    void submit({ setup, then } as never, { method: 'post', encType: 'application/json' });
  };

  return {
    name,
    setName,
    supplier,
    take,
    sheet,
    turnTo,
    map,
    setMap,
    assign,
    own,
    set,
    assume,
    buy,
    sellOn,
    market,
    previousId,
    setPrevious,
    choice,
    setChoice,
    without,
    setWithout,
    rows,
    at,
    header,
    issues,
    send,
  };
}
