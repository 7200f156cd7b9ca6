/** What the set-up of a list says, and how one thing changed changes another. */
import { useState } from 'react';
import { useSubmit } from 'react-router';
import { headerAmong, mapIssues } from '../../../core/lists/map.ts';
import type { ListMap } from '../../../core/lists/map.ts';
import type { Role } from '../../../core/lists/roles.ts';
import type { Choice } from '../../../core/lists/reference.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import type { ListSetup, SetupChoices } from '../../../core/lists/setup.ts';
import {
  assigned,
  bought,
  guessed,
  headings,
  mapLike,
  pricedLike,
  soldOn,
  supplierNamed,
} from './setupChanges.ts';

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
  const header = headings(rows[at]);
  const market = p.markets.find((m) => m.id === own.marketplaceCardId) ?? null;
  const issues = mapIssues(map, header);

  const turnTo = (to: string): void => {
    setSheet(to);
    setMap(guessed(p.sheets.find((s) => s.name === to)?.rows ?? []));
  };
  const assign = (role: Role, heading: string): void => setMap(assigned(map, role, heading));
  const take = (value: string): void => {
    setSupplier(value);
    const known = supplierNamed(p.suppliers, value);
    if (known === undefined) return;
    setMap(mapLike(map, known, header));
    setOwn(pricedLike(own, known));
  };
  const set = (over: Partial<ListSettings>): void => setOwn({ ...own, ...over });
  const assume = (over: Partial<ListSettings['assumptions']>): void =>
    set({ assumptions: { ...own.assumptions, ...over } });
  const buy = (over: Partial<ListSettings['assumptions']['purchase']>): void => setOwn(bought(own, over));
  const sellOn = (id: string): void => {
    const m = p.markets.find((x) => x.id === id);
    if (m !== undefined) setOwn(soldOn(own, m));
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
