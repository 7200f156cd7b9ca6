import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import countryToCurrency from 'country-to-currency';
import { readTables } from '../../core/cards/tables.ts';
import { cardKey } from '../../core/cards/schema.ts';
import type { MarketplaceCard, TaxCard } from '../../core/cards/rates.ts';
import { fault } from '../../core/fault.ts';
import { standing } from '../../core/lane/schema.ts';
import { share } from '../../core/money/schema.ts';
import type { Standing } from '../../core/lane/schema.ts';
import { textOfSheets } from '../../core/schedules/given.ts';
import { MOST_PROOFS, proof } from '../../core/proofs/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import type { Entry } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { isOffered } from '../../core/workspace/offered.ts';
import { tablesOfWorkbook } from '../../server/files/readApart.ts';
import { loadCards, putInForce } from '../../server/use/cards.ts';
import { createDraft } from '../../server/use/cardDrafts.ts';
import { addProofs, dropProofs, keepChoices, loadChoices, loadProofs } from '../../server/use/proofs.ts';
import { knownRates, RATES_FROM, startTaxes } from '../../server/use/taxStart.ts';
import { cardsInForce, saveSettings, settingsWith } from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { ReadTablePage } from '../features/rates/ReadTable.tsx';
import { cardNotes } from '../../words/en/cards.ts';
import { readAgainFor } from '../readAgain.ts';
import { answering, unfit } from '../answers.ts';
import { cellsSchema } from './rateDraftSave.ts';
import type { Route } from './+types/rateRead.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { workspaceId } = entry;
  const { settings, also: inForce } = await settingsWith(workspaceId, (tx) =>
    cardsInForce(tx, workspaceId, today()),
  );
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  const wanted = new URL(request.url).searchParams.get('card') ?? '';
  const [card] = await loadCards(workspaceId, [wanted]);
  const base = card?.kind === 'marketplace' ? card : null;
  const country = base === null ? null : (base.data as MarketplaceCard).country;
  return {
    base:
      base === null
        ? null
        : { id: base.id, key: base.key, name: base.name, data: base.data as MarketplaceCard },
    marketplaces: inForce
      .filter((c) => c.kind === 'marketplace' && isOffered(c, settings))
      .map((c) => ({ id: c.id, name: c.name })),
    proofs: base === null ? [] : await loadProofs(workspaceId, base.key),
    choices: await loadChoices(workspaceId),
    tax: (inForce.find((c) => c.kind === 'tax' && c.key === country)?.data ?? null) as TaxCard | null,
    by: { homeCurrency: settings.homeCurrency, standings: settings.standings, today: today() },
    taxed: Object.fromEntries(
      inForce
        .filter((c) => c.kind === 'tax')
        .map((c) => [c.key, (c.data as TaxCard).vatRates.standard ?? null]),
    ),
    known: { rates: knownRates(), from: RATES_FROM },
    home: { country: settings.homeCountry, currency: settings.homeCurrency },
    currencies: countryToCurrency as Readonly<Record<string, string>>,
    today: today(),
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Rates · Bold Margin' }];
export const shouldRevalidate = readAgainFor('card');

const made = {
  kind: z.enum(['marketplace', 'postage', 'freight']),
  cells: cellsSchema,
  basedOn: z.string().max(64).nullable(),
  /** One's VAT standing in the country, where the workspace has none. */
  standing: standing.nullable(),
  /** The standard rate there, where one typed it. */
  vat: share.nullable().default(null),
  choices: z.record(z.string().max(400), z.number().int().min(0).max(9)),
  proofs: z.array(proof).max(MOST_PROOFS),
};
const told = z.discriminatedUnion('intent', [
  z.strictObject({ intent: z.literal('draft'), ...made }),
  z.strictObject({ intent: z.literal('force'), ...made }),
  z.strictObject({
    intent: z.literal('addProofs'),
    key: z.string().max(300),
    proofs: z.array(proof).max(MOST_PROOFS),
  }),
  z.strictObject({ intent: z.literal('dropProofs'), ids: z.array(z.string().max(64)).max(MOST_PROOFS) }),
]);
type Made = Extract<z.output<typeof told>, { intent: 'draft' | 'force' }>;

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  if (!request.headers.get('content-type')?.startsWith('application/json'))
    return workbookText((await request.formData()).get('file'));
  const parsed = told.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const t = parsed.data;
  switch (t.intent) {
    case 'addProofs':
      await addProofs(entry.workspaceId, t.key, t.proofs, entry.person.id);
      return data({});
    case 'dropProofs':
      await dropProofs(entry.workspaceId, t.ids);
      return data({});
    default:
      return kept(entry, t);
  }
});

/** A new workbook's sheets as text, cells between tabs. */
async function workbookText(file: unknown) {
  if (!(file instanceof File) || file.size === 0) return unfit(fault('notExported'));
  const read = await tablesOfWorkbook(Buffer.from(await file.arrayBuffer()));
  if (!read.ok) return unfit(read.fault);
  const text = textOfSheets(read.sheets);
  return data({ text: text.slice(0, 1_000_000) });
}

/** Keeps what was made: as a draft, or in force at once where it is whole. */
async function kept({ workspaceId, person, slug }: Entry, t: Made) {
  const root = `/w/${slug}/rates`;
  const [base] = t.basedOn === null ? [] : await loadCards(workspaceId, [t.basedOn]);
  const name = String(t.cells.card?.find((r) => r[0] === 'name')?.[1] ?? '').slice(0, 200);
  await keepChoices(workspaceId, t.choices);
  if (t.intent === 'draft') {
    const draft = { kind: t.kind, name, cells: t.cells, basedOn: base?.id ?? null };
    throw redirect(`${root}/draft/${await createDraft(workspaceId, draft, person.id)}`);
  }
  const read = readTables(t.kind, t.cells);
  if (!read.ok) return data({ error: 'invalid' }, 422);
  const whole = read.data;
  const put = await putInForce(workspaceId, t.kind, whole, base?.id ?? null, person.id);
  if (!put.ok) return unfit(put.errors[0] ?? fault('dayTakenMeanwhile'));
  if (t.kind === 'marketplace') {
    const { country, currency } = whole as MarketplaceCard;
    await addProofs(workspaceId, cardKey(t.kind, whole), t.proofs, person.id);
    await startTaxes(workspaceId, country, currency, today(), person.id, cardNotes.taxStart, t.vat);
    await startStanding(workspaceId, country, t.standing);
  }
  throw redirect(`${root}?card=${put.id}`);
}

/** Keeps one's standing in a country of which the workspace says nothing yet. */
async function startStanding(workspaceId: string, country: string, own: Standing | null): Promise<void> {
  if (own === null) return;
  await saveSettings(workspaceId, (s) =>
    s.standings[country] === undefined ? { ...s, standings: { ...s.standings, [country]: own } } : s,
  );
}

export default function RateRead() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <ReadTablePage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
