/** A pack that comes in: what it would bring beside one's own cards, and which of it is taken. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { FileField } from '../../ui/FileField.tsx';
import { Link, useFetcher } from 'react-router';
import type { PackLine, PackState } from '../../../core/packs/compare.ts';
import type { CardPack } from '../../../core/packs/schema.ts';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { ChangeList } from './ChangeList.tsx';
import { useWords } from '../../ui/useWords.ts';

export type PackAnswer = {
  pack?: CardPack;
  lines?: PackLine[];
  issues?: string[];
  error?: string;
  taken?: { inForce: number; drafts: number; proofs: number };
};
type As = 'leave' | 'force' | 'draft';

/** What may be done with a card; the first is proposed. */
const WAYS: Readonly<Record<PackState, readonly As[]>> = {
  new: ['force', 'draft', 'leave'],
  version: ['force', 'draft', 'leave'],
  same: ['leave'],
  conflict: ['leave', 'draft'],
  withdrawn: ['leave', 'draft', 'force'],
};

export function TakePack() {
  const { t } = useWords();
  const f = useFormat();
  const file = useRef<HTMLInputElement>(null);
  const fetcher = useFetcher<PackAnswer>();
  const { pack, lines, issues, error, taken } = fetcher.data ?? {};
  const busy = fetcher.state !== 'idle';
  return (
    <Box component="section" aria-label={t('packs.take')}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        {t('packs.take')}
      </Typography>
      <Button variant="outlined" disabled={busy} onClick={() => file.current?.click()}>
        {t('packs.file')}
      </Button>
      <FileField
        ref={file}
        label={t('packs.file')}
        accept=".json,.zip"
        onFile={(chosen) => {
          const form = new FormData();
          form.set('file', chosen);
          void fetcher.submit(form, { method: 'post', encType: 'multipart/form-data' });
        }}
      />
      {fetcher.data === undefined && (
        <Typography color="text.secondary" sx={{ mt: 1, maxWidth: 520 }}>
          {t('packs.takeHelp')}
        </Typography>
      )}
      {(issues !== undefined || error !== undefined) && (
        <Alert severity="error" variant="outlined" sx={{ mt: 1.5 }}>
          {t('packs.unread')}
          <Box component="ul" sx={{ m: 0, pl: 2.5, fontSize: '0.88rem' }}>
            {(issues ?? [error ?? '']).slice(0, 20).map((said) => (
              <li key={said}>{said}</li>
            ))}
          </Box>
        </Alert>
      )}
      {taken !== undefined && <Taken {...taken} />}
      {pack !== undefined && lines !== undefined && (
        <>
          <Typography sx={{ mt: 1.5, mb: 1 }} dir="auto">
            {t('packs.of', { name: pack.name, date: f.day(pack.madeOn) })}
          </Typography>
          <PackLines
            key={JSON.stringify([pack.name, pack.madeOn, lines.length])}
            pack={pack}
            lines={lines}
            busy={busy}
            submit={(takings) =>
              void fetcher.submit(JSON.stringify({ intent: 'take', pack, takings }), {
                method: 'post',
                encType: 'application/json',
              })
            }
          />
        </>
      )}
    </Box>
  );
}

function Taken({ inForce, drafts, proofs }: NonNullable<PackAnswer['taken']>) {
  const { t } = useWords();
  const said = [
    inForce > 0 ? t('packs.force', { count: inForce }) : '',
    drafts > 0 ? t('packs.drafts', { count: drafts }) : '',
    proofs > 0 ? t('packs.takenProofs', { count: proofs }) : '',
  ].filter(Boolean);
  return (
    <Alert
      severity="success"
      variant="outlined"
      sx={{ mt: 1.5 }}
      action={
        <Button component={Link} to="../rates" size="small">
          {t('packs.toRates')}
        </Button>
      }>
      {t('packs.taken', { said: said.join(', ') || t('packs.takenNothing') })}
    </Alert>
  );
}

function PackLines({
  pack,
  lines,
  busy,
  submit,
}: {
  pack: CardPack;
  lines: readonly PackLine[];
  busy: boolean;
  submit: (takings: { at: number; as: 'force' | 'draft' }[]) => void;
}) {
  const { t } = useWords();
  const [ways, setWays] = useState<readonly As[]>(() => lines.map((l) => WAYS[l.state][0] ?? 'leave'));
  const takings = ways.flatMap((as, i) => (as === 'leave' ? [] : [{ at: lines[i]?.at ?? i, as }]));
  const proofs = lines.reduce((n, l) => n + l.newProofs, 0);
  if (lines.every((l) => l.state === 'same') && proofs === 0)
    return <Typography role="status">{t('packs.nothing')}</Typography>;
  return (
    <>
      <Box sx={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label={pack.name}>
        <Box
          component="table"
          sx={{
            borderCollapse: 'collapse',
            width: '100%',
            fontSize: '0.88rem',
            '& td, & th': {
              textAlign: 'start',
              verticalAlign: 'top',
              px: 1,
              py: 0.75,
              borderBottom: '1px solid',
              borderColor: 'divider',
            },
          }}>
          <thead>
            <tr>
              <th scope="col">{t('packs.card')}</th>
              <th scope="col">{t('packs.from')}</th>
              <th scope="col">{t('packs.says')}</th>
              <th scope="col">{t('packs.act')}</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line, i) => (
              <Line
                key={line.at}
                line={line}
                as={ways[i] ?? 'leave'}
                onChange={(as) => setWays(ways.map((x, k) => (k === i ? as : x)))}
              />
            ))}
          </tbody>
        </Box>
      </Box>
      <Button
        variant="contained"
        sx={{ mt: 2 }}
        disabled={busy || (takings.length === 0 && proofs === 0)}
        onClick={() => submit(takings)}>
        {takings.length === 0 && proofs > 0
          ? t('packs.takeProofs')
          : t('packs.takeIn', { count: takings.length })}
      </Button>
    </>
  );
}

function Line({ line, as, onChange }: { line: PackLine; as: As; onChange: (as: As) => void }) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const { kind, from, state, changes } = line;
  const name = kind === 'tax' ? countryName(line.key, i18n.language) : line.name;
  const ways = WAYS[state];
  return (
    <tr>
      <td dir="auto">
        <b>{name}</b>
        <Typography variant="body2" color="text.secondary">
          {t(`cards.one.${kind}`)},{' '}
          {from.source === ''
            ? t('packs.byNobody', { date: f.day(from.day) })
            : t('packs.by', { source: from.source, date: f.day(from.day) })}
        </Typography>
      </td>
      <td>{f.day(line.inForceFrom)}</td>
      <td>
        <Box component="span" sx={{ color: state === 'conflict' ? 'error.main' : 'text.primary' }}>
          {t(`packs.state.${state}`)}
        </Box>
        {line.newProofs > 0 && <div>{t('packs.proofs', { count: line.newProofs })}</div>}
        {changes.length > 0 && (
          <details>
            <summary>{t('packs.rows', { count: changes.length })}</summary>
            <ChangeList kind={kind} changes={changes} />
          </details>
        )}
      </td>
      <td>
        {ways.length > 1 && (
          <Box
            component="select"
            value={as}
            aria-label={t('packs.act1', { card: name })}
            onChange={(e: { target: { value: string } }) => onChange(e.target.value as As)}
            sx={{ font: 'inherit', color: 'text.primary', bgcolor: 'background.paper', py: 0.5 }}>
            {ways.map((w) => (
              <option key={w} value={w}>
                {t(`packs.as.${w}`)}
              </option>
            ))}
          </Box>
        )}
      </td>
    </tr>
  );
}
