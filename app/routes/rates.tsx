import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { country as countryCode, currency as currencyCode, shortText } from '../../core/money/schema.ts';
import { blankCells, compareCards, draftOf, readTables } from '../../core/cards/tables.ts';
import { CARD_KINDS, cardDay, cardFrom } from '../../core/cards/schema.ts';
import type { CardData, CardKind, FreightCard } from '../../core/cards/schema.ts';
import type { CellError, Tables } from '../../core/cards/reader.ts';
import type { MarketplaceCard, TaxCard } from '../../core/cards/rates.ts';
import { exchangeTable } from '../../core/money/schema.ts';
import type { ExchangeTable } from '../../core/money/money.ts';
import { firstMarket, isOffered } from '../../core/workspace/offered.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { cellsFrom } from '../../server/files/cardFiles.ts';
import { readExchangeCsv, readReferenceXml } from '../../server/files/exchangeFiles.ts';
import { tablesOfWorkbook } from '../../server/files/readApart.ts';
import { readCsv } from '../../server/files/sheets.ts';
import { freightFromOutside, outsideIsThere, ratesFromOutside } from '../../server/outside/client.ts';
import {
  listCards,
  loadCards,
  previewOf,
  putExchange,
  putInForce,
  readCardDocument,
  withdraw,
} from '../../server/use/cards.ts';
import { createDraft, draftFrom, draftFromFreightQuote, throwDraft } from '../../server/use/cardDrafts.ts';
import { loadProofs } from '../../server/use/proofs.ts';
import { cardsInForce, saveSettings, settingsWith } from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { RatesPage } from '../features/rates/Rates.tsx';
import { cellsSchema } from './rateDraftSave.ts';
import type { Route } from './+types/rates.ts';
import { readAgainFor } from '../readAgain.ts';
import { answering } from '../answers.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { firstOfNextMonth } from '../../core/money/days.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const search = new URL(request.url).searchParams;
  const list = await listCards(entry.workspaceId);
  const { settings, also: inForce } = await settingsWith(entry.workspaceId, (tx) =>
    cardsInForce(tx, entry.workspaceId, today()),
  );
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  const byKey = list.versions.find(
    (v) =>
      v.kind === search.get('kind') &&
      (v.key === search.get('key') || search.get('key') === null) &&
      !v.withdrawn &&
      v.inForceFrom <= today(),
  );
  const wanted =
    search.get('card') ??
    byKey?.id ??
    firstMarket(
      inForce.filter((c) => isOffered(c, settings)),
      settings.homeCountry,
    )?.id ??
    inForce[0]?.id ??
    '';
  const [withId, besideId] = [search.get('with') ?? '', search.get('beside') ?? ''];
  const cards = new Map(
    (await loadCards(entry.workspaceId, [wanted, withId, besideId])).map((c) => [c.id, c]),
  );
  const chosen = cards.get(wanted) ?? null;
  const against = chosen === null ? null : (cards.get(withId) ?? null);
  const taxOf = (country: string): CardData | null =>
    inForce.find((c) => c.kind === 'tax' && c.key === country)?.data ?? null;
  const second = cards.get(besideId);
  return {
    versions: list.versions,
    drafts: list.drafts.map(({ id, kind, name }) => ({ id, kind, name })),
    chosen,
    against: against !== null && against.kind === chosen?.kind ? against : null,
    changes:
      chosen !== null && against !== null && against.kind === chosen.kind
        ? compareCards(chosen.kind, against.data, chosen.data)
        : [],
    tax: chosen?.kind === 'marketplace' ? taxOf((chosen.data as MarketplaceCard).country) : null,
    beside:
      second?.kind === 'marketplace'
        ? {
            id: second.id,
            name: second.name,
            card: second.data as MarketplaceCard,
            tax: taxOf((second.data as MarketplaceCard).country) as TaxCard | null,
          }
        : null,
    exchange: (inForce.find((c) => c.kind === 'exchange')?.data ?? null) as ExchangeTable | null,
    homeCurrency: settings.homeCurrency,
    hideExamples: settings.hideExamples,
    standings: settings.standings,
    proofs: chosen?.kind === 'marketplace' ? await loadProofs(entry.workspaceId, chosen.key) : [],
    today: today(),
    outside: outsideIsThere(),
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Rates · Bold Margin' }];
const ASKED = ['card', 'kind', 'key', 'with', 'beside'];
/** Sizes and prices that are tried ask nothing of the server. */
export const shouldRevalidate = readAgainFor(...ASKED);

const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);
const told = z.discriminatedUnion('intent', [
  z.object({
    intent: z.enum(['applyImport', 'importAsDraft']),
    id: z.string().max(64),
    cells: cellsSchema,
    from: z.string().max(20),
  }),
  z.object({
    intent: z.literal('readAgain'),
    id: z.string().max(64),
    cells: cellsSchema,
    comma: z.boolean(),
    from: z.string().max(20),
  }),
  z.object({
    intent: z.literal('applyRates'),
    id: z.string().max(64),
    tables: z.array(exchangeTable).max(20_000),
  }),
]);

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const { workspaceId, person } = entry;
  const root = `/w/${entry.slug}/rates`;
  if (request.headers.get('content-type')?.startsWith('application/json'))
    return applied(workspaceId, root, await request.json().catch(() => null), person.id);
  const form = await request.formData();
  const id = String(form.get('id') ?? '');
  const toDraft = (draft: string | null) => redirect(draft === null ? root : `${root}/draft/${draft}`);
  switch (form.get('intent')) {
    case 'next':
      throw toDraft(await draftFrom(workspaceId, id, false, person.id));
    case 'copy':
      throw toDraft(await draftFrom(workspaceId, id, true, person.id));
    case 'new': {
      const kind = CARD_KINDS.find((k) => k === form.get('kind'));
      if (kind === undefined) return data({}, 400);
      throw toDraft(
        await createDraft(
          workspaceId,
          { kind, name: '', cells: blankCells(kind, today(), startOf(form)), basedOn: null },
          person.id,
        ),
      );
    }
    case 'restoreDraft':
      throw toDraft((await throwDraft(workspaceId, id, true)) ? id : null);
    case 'hideExamples':
    case 'showExamples':
      await saveSettings(workspaceId, (s) => ({ ...s, hideExamples: form.get('intent') === 'hideExamples' }));
      return data({});
    case 'withdraw':
      await withdraw(workspaceId, id, false);
      return data({});
    case 'putBack': {
      const back = await withdraw(workspaceId, id, true);
      return back
        ? data({})
        : data(
            {
              errors: [
                { sheet: 'card', row: null, column: 'inForceFrom', ...fault('dayTakenMeanwhile') },
              ] satisfies CellError[],
            },
            422,
          );
    }
    case 'fetchRates': {
      const got = await ratesFromOutside(workspaceId);
      if (got === null) return data({ fetched: null });
      await putExchange(workspaceId, [got.table], person.id);
      const { versions } = await listCards(workspaceId);
      const card = versions.find(
        (v) => v.kind === 'exchange' && v.inForceFrom === got.table.date && !v.withdrawn,
      );
      return data({ fetched: { at: got.at, stale: got.stale, card: card?.id ?? null } });
    }
    case 'freightQuote': {
      const [card] = await loadCards(workspaceId, [id]);
      if (card?.kind !== 'freight') return data({}, 404);
      const { from, to, mode } = card.data as FreightCard;
      // A card for any origin or destination asks for the longest usual way.
      const got = await freightFromOutside(workspaceId, from ?? 'CN', to ?? 'DE', mode);
      if (got === null) return data({ fetched: null });
      throw toDraft(await draftFromFreightQuote(workspaceId, id, got.value, got.at, person.id));
    }
    case 'import':
      return imported(workspaceId, id, form.get('file'));
    default:
      return data({}, 400);
  }
});

/** What a new card is for, where that is known: the lane that lacks it says so. */
const startOf = (form: FormData): Readonly<Record<string, string>> =>
  z
    .object({
      name: shortText.optional().catch(undefined),
      country: countryCode.optional().catch(undefined),
      currency: currencyCode.optional().catch(undefined),
      marketplace: shortText.optional().catch(undefined),
    })
    .transform((o) =>
      Object.fromEntries(Object.entries(o).filter((e): e is [string, string] => typeof e[1] === 'string')),
    )
    .parse(Object.fromEntries(form));

/** Reads a file against the version it is meant to follow. */
async function imported(workspaceId: string, id: string, file: unknown) {
  const wrong = (what: Fault) =>
    data({ errors: [{ sheet: '', row: null, column: null, ...what }] satisfies CellError[] }, 422);
  const [card] = await loadCards(workspaceId, [id]);
  if (card === undefined) return data({}, 404);
  if (!(file instanceof File) || file.size === 0) return wrong(fault('notExported'));
  const name = file.name.toLowerCase();
  const next = nextMonth(card.inForceFrom, today());
  if (
    name.endsWith('.xml') ||
    (card.kind === 'exchange' &&
      name.endsWith('.csv') &&
      !/^\W*"?(currency|rate|field)"?\s*[,;\t]\s*"?(rate|currency|value)"?\s*\r?\n/i.test(
        await file.slice(0, 200).text(),
      ))
  ) {
    const read = name.endsWith('.xml')
      ? readReferenceXml(await file.text(), file.name)
      : readExchangeCsv(await file.text(), (card.data as ExchangeTable).base, file.name);
    return read.ok ? data({ rates: { tables: read.tables } }) : data({ rateErrors: read.errors }, 422);
  }
  if (name.endsWith('.json')) {
    const read = readCardDocument(await file.text());
    if (!read.ok) return data({ errors: read.errors }, 422);
    if (read.kind !== card.kind) return wrong(fault('otherCardKind', { kind: read.kind }));
    const p = previewOf(card.kind, draftOf(read.kind, read.data), card.data, false);
    return data({
      preview: {
        ...p,
        comma: false,
        from: cardDay(read.data) === card.inForceFrom ? next : cardDay(read.data),
      },
    });
  }
  const read = name.endsWith('.csv')
    ? readCsv(await file.text())
    : await tablesOfWorkbook(Buffer.from(await file.arrayBuffer()));
  if (!read.ok) return wrong(read.fault);
  const cells = cellsFrom(card.kind, read.sheets, card.data);
  if (!cells.ok) return data({ errors: cells.errors }, 422);
  const comma = read.delimiter === ';';
  const p = previewOf(card.kind, cells.cells, card.data, comma);
  const said = dayIn(card.kind, p.cells);
  return data({ preview: { ...p, comma, from: said === null || said === card.inForceFrom ? next : said } });
}

/** The day that the cells carry; null where it cannot be read. */
function dayIn(kind: CardKind, cells: Tables): string | null {
  const at = String(
    cells.card?.find((r) => r[0] === (kind === 'exchange' ? 'date' : 'inForceFrom'))?.[1] ?? '',
  );
  return day.safeParse(at).success ? at : null;
}

/** The first of next month, or of the month after the version where that is later. */
const nextMonth = (version: string, now: string): string => firstOfNextMonth(version > now ? version : now);

/** Carries out what was previewed, all or nothing. */
async function applied(workspaceId: string, root: string, body: unknown, by: string) {
  const parsed = told.safeParse(body);
  if (!parsed.success) return data({}, 400);
  const t = parsed.data;
  const [card] = await loadCards(workspaceId, [t.id]);
  if (card === undefined) return data({}, 404);
  if (t.intent === 'applyRates') {
    await putExchange(workspaceId, t.tables, by);
    throw redirect(`${root}?kind=exchange&key=exchange`);
  }
  if (t.intent === 'readAgain')
    return data({
      preview: { ...previewOf(card.kind, t.cells, card.data, t.comma), comma: t.comma, from: t.from },
    });
  if (t.intent === 'importAsDraft') {
    const read = readTables(card.kind, t.cells);
    const own = read.ok ? draftOf(card.kind, read.data) : t.cells;
    const cells = day.safeParse(t.from).success
      ? {
          ...own,
          card: (own.card ?? []).map((r) => (r[0] === 'inForceFrom' || r[0] === 'date' ? [r[0], t.from] : r)),
        }
      : own;
    const draft = { kind: card.kind, name: card.name, cells, basedOn: card.id };
    throw redirect(`${root}/draft/${await createDraft(workspaceId, draft, by)}`);
  }
  const read = readTables(card.kind, t.cells);
  if (!read.ok) return data({ errors: [...read.errors] }, 422);
  const put = await putInForce(workspaceId, card.kind, cardFrom(read.data, t.from), card.id, by);
  if (!put.ok) return data({ errors: [...put.errors] }, 422);
  throw redirect(`${root}/touch?card=${put.id}`);
}

export default function Rates() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <RatesPage {...loaded} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
