import { Alert, Box, Button, LinearProgress, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigation, useRevalidator, useSearchParams, useSubmit } from 'react-router';
import { guessMap, headerAmong, mapIssues, OPTIONAL_ROLES, REQUIRED_ROLES } from '../../../core/lists/map.ts';
import type { ListMap, Role } from '../../../core/lists/map.ts';
import type { Choice } from '../../../core/lists/reference.ts';
import { CHOICES } from '../../../core/lists/reference.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { useCurrencies } from '../../ui/names.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useUpload } from './useUpload.ts';
import './words.ts';
import { Preview } from './Preview.tsx';

type Sheet = { readonly name: string; readonly rows: readonly (readonly string[])[] };
type Check = {
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
type Props = {
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
  sheets: Sheet[];
  referenceSheets: Sheet[] | null;
  map: ListMap;
  own: ListSettings;
  suppliers: { id: string; name: string; currency: string | null; map: ListMap | null }[];
  markets: {
    id: string;
    key: string;
    name: string;
    country: string;
    currency: string;
    hasWarehouse: boolean;
    categories: { key: string; name: string }[];
  }[];
  earlier: { id: string; name: string }[];
  home: string;
  check: Check | null;
  refused: boolean;
  root: string;
  canEdit: boolean;
  error: string | null;
};
/** Says once how a list is read and on what terms its rows are weighed, with the first rows as they will be read. */
export function ListSetupPage(p: Props) {
  const { t } = useTranslation();
  const currencies = useCurrencies();
  const f = useFormat();
  const submit = useSubmit();
  const busy = useNavigation().state !== 'idle';
  const [search] = useSearchParams();
  const { revalidate } = useRevalidator();
  const [name, setName] = useState(p.list.name);
  const [supplier, setSupplier] = useState(p.supplierName);
  const [sheet, setSheet] = useState(p.list.sheet);
  const [allRoles, setAllRoles] = useState(false);
  const [map, setMap] = useState(p.map);
  const [own, setOwn] = useState(p.own);
  const [previousId, setPrevious] = useState(p.list.previousId);
  const [choice, setChoice] = useState<Choice>(p.list.reference?.choice ?? 'sellsFastest');
  const [without, setWithout] = useState(false);
  const chooseReference = useRef<HTMLInputElement>(null);
  const upload = useUpload(p.root, () => void revalidate(), t('lists.broken'));
  const working = p.check !== null && (p.check.state === 'waiting' || p.check.state === 'running');
  useEffect(() => {
    if (!working) return;
    const timer = setInterval(() => void revalidate(), 700);
    return () => clearInterval(timer);
  }, [working, revalidate]);

  const rows = (p.sheets.find((s) => s.name === (sheet ?? '')) ?? p.sheets[0])?.rows ?? [];
  const at = headerAmong(rows, map);
  const header = (rows[at] ?? []).map((c) => c.trim());
  const market = p.markets.find((m) => m.id === own.marketplaceCardId) ?? null;
  const issues = mapIssues(map, header);
  const missing = REQUIRED_ROLES.filter((r) => map.columns[r] === undefined);

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
  const send = (then: 'check' | 'run'): void =>
    void submit(
      {
        setup: {
          name,
          supplier: supplier.trim(),
          sheet,
          map,
          settings: own,
          previousId,
          reference:
            p.list.reference === null || without
              ? null
              : { map: p.list.reference.map, sheet: p.list.reference.sheet, choice },
        },
        then,
      } as never,
      { method: 'post', encType: 'application/json' },
    );

  const options = [
    { value: '', label: t('setup.none') },
    ...header.filter((h, i) => h !== '' && header.indexOf(h) === i).map((h) => ({ value: h, label: h })),
  ];
  const size =
    p.list.file.bytes < 1e6
      ? `${f.number(p.list.file.bytes / 1e3, 0)} kB`
      : `${f.number(p.list.file.bytes / 1e6, 1)} MB`;
  const extras = header.filter((h) => h !== '' && !Object.values(map.columns).includes(h));
  const asTyped = own.assumptions.purchase.vat === 'asTyped';
  const remembered = p.suppliers.find((s) => s.name.toLowerCase() === supplier.trim().toLowerCase())?.map;
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1">{name || p.list.name}</Typography>
        <Typography color="text.secondary">{t('setup.lead', { file: p.list.file.name, size })}</Typography>
        <Box sx={{ ml: 'auto', display: 'flex', gap: 1 }}>
          <Button component={Link} to={`${p.root}/lists`} size="small">
            {t('list.back')}
          </Button>
          {p.list.hasRun && (
            <Button component={Link} to={`${p.root}/lists/${p.list.id}`} size="small">
              {t('setup.back')}
            </Button>
          )}
        </Box>
      </Box>
      {search.get('same') !== null && (
        <Alert severity="info" sx={{ mb: 1.5 }}>
          {t('lists.sameAs', { name: search.get('same') })}
        </Alert>
      )}
      {p.error !== null && (
        <Alert severity="error" sx={{ mb: 1.5 }}>
          {p.error}
        </Alert>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 350px' }, gap: 4 }}>
        <Box sx={{ minWidth: 0 }}>
          <Typography variant="h2" sx={{ mb: 0.5 }}>
            {t('setup.columns')}
          </Typography>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1.5 }}>
            {remembered != null && mapIssues(remembered, header).length === 0
              ? t('setup.remembered', { supplier: supplier.trim() })
              : t('setup.guessed')}{' '}
            {t('setup.headerAt', { row: at + 1 })}
          </Typography>
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mb: 2 }}>
            {p.sheets.length > 1 && (
              <ChoiceLine
                label={t('setup.sheet')}
                value={sheet ?? ''}
                options={p.sheets.map((s) => ({ value: s.name, label: s.name }))}
                onChange={turnTo}
                width={150}
              />
            )}
            {REQUIRED_ROLES.map((r) => (
              <ChoiceLine
                key={r}
                label={t(`role.${r}`)}
                tag={t('setup.required')}
                value={map.columns[r] ?? ''}
                options={options}
                onChange={(h) => assign(r, h)}
                width={190}
              />
            ))}
            <ChoiceLine
              label={t('setup.decimal')}
              value={map.decimal}
              options={[
                { value: 'point', label: t('setup.point') },
                { value: 'comma', label: t('setup.comma') },
              ]}
              onChange={(decimal) => setMap({ ...map, decimal })}
              width={92}
            />
            <ChoiceLine
              label={t('setup.lengthUnit')}
              value={map.lengthUnit}
              options={(['mm', 'cm', 'm', 'in'] as const).map((u) => ({ value: u, label: u }))}
              onChange={(lengthUnit) => setMap({ ...map, lengthUnit })}
              width={72}
            />
            <ChoiceLine
              label={t('setup.weightUnit')}
              value={map.weightUnit}
              options={(['g', 'kg', 'oz', 'lb'] as const).map((u) => ({ value: u, label: u }))}
              onChange={(weightUnit) => setMap({ ...map, weightUnit })}
              width={72}
            />
          </Box>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 0.5 }}>
            {t('setup.optional')}
          </Typography>
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: 'repeat(auto-fill, minmax(142px, 1fr))',
              gap: '8px 14px',
              mb: 2,
            }}>
            {OPTIONAL_ROLES.filter((r) => allRoles || USUAL.has(r) || map.columns[r] !== undefined).map(
              (r) => (
                <ChoiceLine
                  key={r}
                  label={t(`role.${r}`)}
                  value={map.columns[r] ?? ''}
                  options={options}
                  onChange={(h) => assign(r, h)}
                  width="100%"
                />
              ),
            )}
            {!allRoles && (
              <Button
                size="small"
                onClick={() => setAllRoles(true)}
                sx={{ alignSelf: 'end', justifySelf: 'start', textAlign: 'left' }}>
                {t('setup.moreColumns')}
              </Button>
            )}
          </Box>
          {extras.length > 0 && (
            <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 2, fontSize: '0.84rem' }}>
              <Box component="legend" sx={{ color: 'text.secondary', fontSize: '0.76rem' }}>
                {t('setup.extras')}: {t('setup.extrasHelp')}
              </Box>
              {extras.slice(0, 50).map((h) => (
                <Box
                  key={h}
                  component="label"
                  sx={{ mr: 2, display: 'inline-flex', gap: 0.5, alignItems: 'center', minHeight: 26 }}>
                  <input
                    type="checkbox"
                    checked={map.extras.includes(h)}
                    onChange={(e) =>
                      setMap({
                        ...map,
                        extras: e.target.checked ? [...map.extras, h] : map.extras.filter((x) => x !== h),
                      })
                    }
                  />
                  {h}
                </Box>
              ))}
            </Box>
          )}
          <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
            {t('setup.preview')}
          </Typography>
          {missing.length > 0 ? (
            <Alert severity="info">
              {t('setup.missingRoles', { roles: missing.map((r) => t(`role.${r}`)).join(', ') })}
            </Alert>
          ) : issues.length > 0 ? (
            <Alert severity="warning">
              {issues[0]?.problem}. {issues[0]?.remedy}
            </Alert>
          ) : (
            <Preview
              rows={rows.slice(at + 1)}
              from={at + 2}
              header={header}
              map={map}
              currency={own.assumptions.purchase.currency}
            />
          )}
        </Box>
        <Box>
          <Typography variant="h2" sx={{ mb: 1 }}>
            {t('setup.terms')}
          </Typography>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '10px 16px' }}>
            <Box sx={{ gridColumn: '1 / -1' }}>
              <TextLine label={t('setup.name')} value={name} onChange={setName} width="100%" />
            </Box>
            <Box sx={{ gridColumn: '1 / -1' }}>
              <TextLine label={t('lists.supplier')} value={supplier} onChange={take} width="100%" />
              {supplier === '' && p.suppliers.length > 0 && (
                <Box sx={{ fontSize: '0.78rem', mt: 0.5 }}>
                  {p.suppliers.slice(0, 6).map((s) => (
                    <Box
                      key={s.id}
                      component="button"
                      type="button"
                      onClick={() => take(s.name)}
                      sx={{
                        font: 'inherit',
                        color: 'inherit',
                        border: 0,
                        bgcolor: 'transparent',
                        textDecoration: 'underline',
                        cursor: 'pointer',
                        p: 0.25,
                        mr: 1,
                      }}>
                      {s.name}
                    </Box>
                  ))}
                </Box>
              )}
            </Box>
            <ChoiceLine
              label={t('setup.market')}
              value={own.marketplaceCardId ?? ''}
              options={p.markets.map((m) => ({ value: m.id, label: m.name }))}
              onChange={sellOn}
              width="100%"
            />
            <ChoiceLine
              label={t('setup.method')}
              value={own.assumptions.method}
              options={(['warehouse', 'ownDispatch'] as const)
                .filter((m) => m === 'ownDispatch' || market?.hasWarehouse !== false)
                .map((m) => ({ value: m, label: t(`method.${m}`) }))}
              onChange={(method) => assume({ method })}
              width="100%"
            />
            <SearchChoice
              label={t('setup.currency')}
              value={own.assumptions.purchase.currency}
              options={currencies}
              onChange={(currency) => buy({ currency })}
              width="100%"
            />
            <ChoiceLine
              label={t('setup.packs')}
              value={own.packs}
              options={(['single', 'bought'] as const).map((v) => ({ value: v, label: t(`setup.${v}`) }))}
              onChange={(packs) => set({ packs })}
              width="100%"
            />
            <ChoiceLine
              label={t('setup.prices')}
              value={own.assumptions.purchase.vat}
              options={(['asTyped', 'included', 'added'] as const).map((v) => ({
                value: v,
                label: t(`setup.${v}`),
              }))}
              onChange={(vat) =>
                buy({ vat, vatRate: vat === 'asTyped' ? 0 : own.assumptions.purchase.vatRate })
              }
              width="100%"
            />
            <NumField
              label={t('setup.vatRate')}
              kind="percent"
              value={asTyped ? null : own.assumptions.purchase.vatRate}
              max={1}
              onChange={(x) =>
                buy(
                  x === null
                    ? { vat: 'asTyped', vatRate: 0 }
                    : { vatRate: x, vat: asTyped ? 'added' : own.assumptions.purchase.vat },
                )
              }
              width="100%"
            />
            {asTyped && (
              <Box sx={{ gridColumn: '1 / -1', fontSize: '0.76rem', color: 'text.secondary' }}>
                {t('setup.asTypedHelp')}
              </Box>
            )}
            <Box sx={{ gridColumn: '1 / -1' }}>
              <ChoiceLine
                label={t('setup.category')}
                value={own.assumptions.category ?? ''}
                options={[
                  { value: '', label: t('setup.noCategory') },
                  ...(market?.categories ?? []).map((c) => ({ value: c.key, label: c.name })),
                ]}
                onChange={(c) => assume({ category: c === '' ? null : c })}
                width="100%"
              />
            </Box>
            {p.earlier.length > 0 && (
              <Box sx={{ gridColumn: '1 / -1' }}>
                <ChoiceLine
                  label={t('setup.previous')}
                  value={previousId ?? ''}
                  options={[
                    { value: '', label: t('setup.noPrevious') },
                    ...p.earlier.map((e) => ({ value: e.id, label: e.name })),
                  ]}
                  onChange={(v) => setPrevious(v === '' ? null : v)}
                  width="100%"
                />
              </Box>
            )}
          </Box>
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1.5 }}>
            {t('setup.moreTerms')}
          </Typography>

          <Typography variant="h3" component="h2" sx={{ mt: 2.5, mb: 0.5 }}>
            {t('setup.reference')}
          </Typography>
          {p.list.reference === null || without ? (
            <>
              <Typography variant="body2" color="text.secondary">
                {t('setup.referenceHelp')}
              </Typography>
              {p.canEdit && (
                <Button
                  size="small"
                  sx={{ mt: 0.5 }}
                  onClick={() => chooseReference.current?.click()}
                  disabled={upload.now !== null}>
                  {upload.now === null
                    ? t('setup.referenceAdd')
                    : t('lists.sending', { name: upload.now.name, share: f.percent(upload.now.share, 0) })}
                </Button>
              )}
              <input
                ref={chooseReference}
                type="file"
                accept=".csv,.tsv,.txt,.xlsx"
                aria-label={t('setup.referenceAdd')}
                hidden
                onChange={(e) => {
                  const file = e.target.files?.[0];
                  if (file !== undefined) upload.send(file, p.list.id);
                  setWithout(false);
                  e.target.value = '';
                }}
              />
            </>
          ) : (
            <Box sx={{ fontSize: '0.86rem' }}>
              {t('setup.referenceFile', { name: p.list.reference.file.name })}:{' '}
              {Object.entries(p.list.reference.map.columns)
                .map(([r, h]) => `${t(`role.${r}`)} = ${h}`)
                .join(', ')}
              <ChoiceLine
                label={t('setup.choice')}
                value={choice}
                options={CHOICES.map((c) => ({ value: c, label: t(`setup.choices.${c}`) }))}
                onChange={setChoice}
                width="100%"
              />
              <Button size="small" onClick={() => setWithout(true)}>
                {t('setup.referenceOut')}
              </Button>
            </Box>
          )}
          {upload.error !== null && (
            <Alert severity="error" sx={{ mt: 1 }}>
              {upload.error}
            </Alert>
          )}

          {p.canEdit && (
            <Box
              sx={{
                mt: 3,
                display: 'flex',
                gap: 1.5,
                alignItems: 'center',
                position: 'sticky',
                bottom: 0,
                py: 1.5,
                bgcolor: 'background.default',
                zIndex: 1,
              }}>
              <Button
                variant="contained"
                color="primary"
                disabled={busy || issues.length > 0 || name.trim() === ''}
                onClick={() => send('run')}>
                {t('setup.run')}
              </Button>
              <Button
                variant="outlined"
                disabled={busy || working || issues.length > 0 || name.trim() === ''}
                onClick={() => send('check')}
                sx={{ bgcolor: 'background.paper' }}>
                {t('setup.check')}
              </Button>
            </Box>
          )}
          {p.check !== null && (
            <Box role="status" sx={{ mt: 1.5, fontSize: '0.88rem' }}>
              {working ? (
                <>
                  {t('setup.checking', {
                    done: f.number(p.check.done, 0),
                    total: f.number(Math.max(p.check.done, p.check.total), 0),
                  })}
                  <LinearProgress
                    variant={p.check.total === 0 ? 'indeterminate' : 'determinate'}
                    value={p.check.total === 0 ? 0 : Math.min(100, (100 * p.check.done) / p.check.total)}
                    aria-label={t('setup.check')}
                    sx={{ mt: 0.5 }}
                  />
                </>
              ) : p.check.state === 'failed' ? (
                <Alert severity="error">{t('setup.failed', { error: p.check.error })}</Alert>
              ) : p.check.state === 'done' ? (
                <>
                  <b>
                    {t('setup.checked', {
                      rows: f.number(p.check.valid + p.check.invalid, 0),
                      valid: f.number(p.check.valid, 0),
                      invalid: f.number(p.check.invalid, 0),
                    })}
                  </b>
                  {Object.keys(p.check.troubles).length > 0 && (
                    <Box>
                      {Object.entries(p.check.troubles)
                        .map(([k, n]) => `${f.number(n, 0)} ${t(`setup.troubles.${k}`)}`)
                        .join(' · ')}
                    </Box>
                  )}
                  {p.check.repaired > 0 && <Box>{t('setup.repaired', { count: p.check.repaired })}</Box>}
                  {p.check.completed > 0 && <Box>{t('setup.completed', { count: p.check.completed })}</Box>}
                  {p.check.invalid > 0 && p.refused && (
                    <Box sx={{ mt: 0.5 }}>
                      <a href={`${p.root}/lists/${p.list.id}/file?what=refused`}>{t('setup.mend')}</a>{' '}
                      <Box component="span" sx={{ color: 'text.secondary' }}>
                        {t('setup.mendHelp')}
                      </Box>
                    </Box>
                  )}
                </>
              ) : null}
            </Box>
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** Columns that most lists have; the others are offered when they are asked for, or found in the file. */
const USUAL: ReadonlySet<Role> = new Set([
  'title',
  'brand',
  'category',
  'packSize',
  'size',
  'weight',
  'price',
  'units',
  'minimumOrder',
  'carton',
  'vatRate',
  'stock',
]);
