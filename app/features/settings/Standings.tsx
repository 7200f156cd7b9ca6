/** The VAT standing in each country, and one for all of them in one step. */
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { Standing } from '../../../core/lane/schema.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { countryName, useCountries } from '../../ui/names.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { StandingChoice } from '../../ui/StandingChoice.tsx';
import { useWords } from '../../ui/useWords.ts';

export function Standings({
  standings,
  countries,
  canEdit,
  onCountry,
  onAll,
}: {
  standings: Settings['standings'];
  /** Countries that have a tax card or a standing. */
  countries: readonly string[];
  canEdit: boolean;
  onCountry: (country: string, to: Standing | null) => void;
  onAll: (standings: Settings['standings']) => void;
}) {
  const { t, i18n } = useWords();
  const every = useCountries();
  const [added, setAdded] = useState<readonly string[]>([]);
  const shown = [...new Set([...countries, ...added])].sort((a, b) =>
    countryName(a, i18n.language).localeCompare(countryName(b, i18n.language), i18n.language),
  );
  return (
    <>
      {canEdit && <ForAll standings={standings} countries={shown} onAll={onAll} />}
      {shown.map((c) => (
        <StandingChoice
          key={c}
          label={countryName(c, i18n.language)}
          none={t('standing.missing')}
          standing={standings[c] ?? null}
          onChange={(to) => onCountry(c, to)}
        />
      ))}
      {canEdit && (
        <SearchChoice
          label={t('settings.otherCountry')}
          value=""
          options={every.filter((c) => !shown.includes(c.value))}
          onChange={(c) => setAdded([...added, c])}
          width={200}
        />
      )}
    </>
  );
}

/** One standing for every country shown, or for those that have none yet. */
function ForAll({
  standings,
  countries,
  onAll,
}: {
  standings: Settings['standings'];
  countries: readonly string[];
  onAll: (standings: Settings['standings']) => void;
}) {
  const { t } = useWords();
  const [standing, setStanding] = useState<Standing | null>(null);
  const missing = countries.filter((c) => standings[c] === undefined);
  const set = (which: readonly string[]): void => {
    if (standing !== null) onAll({ ...standings, ...Object.fromEntries(which.map((c) => [c, standing])) });
  };
  return (
    <Box
      role="group"
      aria-label={t('settings.standing')}
      sx={{ flexBasis: '100%', display: 'flex', gap: 1, alignItems: 'end', flexWrap: 'wrap', mb: 1 }}>
      <StandingChoice
        label={t('settings.standingAll')}
        none="–"
        standing={standing}
        onChange={setStanding}
        width={230}
      />
      <Button size="small" variant="outlined" disabled={standing === null} onClick={() => set(countries)}>
        {t('settings.setAll', { count: countries.length })}
      </Button>
      {missing.length > 0 && missing.length < countries.length && (
        <Button size="small" disabled={standing === null} onClick={() => set(missing)}>
          {t('settings.setMissing', { count: missing.length })}
        </Button>
      )}
    </Box>
  );
}
