/** Which column of the file says what, with the first rows as they will be read. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { inWords } from '../../../words/index.ts';
import { mapIssues } from '../../../core/lists/map.ts';
import { OPTIONAL_ROLES, REQUIRED_ROLES, roleRule } from '../../../core/lists/roles.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { Preview } from './Preview.tsx';
import type { Setup, SetupData } from './useSetup.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { data: SetupData; setup: Setup };

export function SetupColumns({ data: p, setup }: Props) {
  const { t } = useWords();
  const { supplier, sheet, turnTo, map, setMap, assign, at, header } = setup;
  const [allRoles, setAllRoles] = useState(false);
  const remembered = p.suppliers.find((s) => s.name.toLowerCase() === supplier.trim().toLowerCase())?.map;
  const options = [
    { value: '', label: t('setup.none') },
    ...header.filter((h, i) => h !== '' && header.indexOf(h) === i).map((h) => ({ value: h, label: h })),
  ];
  return (
    <>
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
        {OPTIONAL_ROLES.filter((r) => allRoles || roleRule(r).usual || map.columns[r] !== undefined).map(
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
      <Extras setup={setup} />
      <FirstRows setup={setup} />
    </>
  );
}

/** Columns that say nothing the program knows: kept as they are where wanted. */
function Extras({ setup: { map, setMap, header } }: { setup: Setup }) {
  const { t } = useWords();
  const extras = header.filter((h) => h !== '' && !Object.values(map.columns).includes(h));
  if (extras.length === 0) return null;
  return (
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
  );
}

/** The first rows as they will be read, or what keeps them from it. */
function FirstRows({ setup: { map, rows, at, header, issues, own } }: { setup: Setup }) {
  const { t } = useWords();
  const missing = REQUIRED_ROLES.filter((r) => map.columns[r] === undefined);
  return (
    <>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('setup.preview')}
      </Typography>
      {missing.length > 0 ? (
        <Alert severity="info">
          {t('setup.missingRoles', { roles: missing.map((r) => t(`role.${r}`)).join(', ') })}
        </Alert>
      ) : issues.length > 0 ? (
        <Alert severity="warning">{issues[0] !== undefined && inWords(issues[0])}</Alert>
      ) : (
        <Preview
          rows={rows.slice(at + 1)}
          from={at + 2}
          header={header}
          map={map}
          currency={own.assumptions.purchase.currency}
        />
      )}
    </>
  );
}
