/** Brings evidence in: a file or rows from a spreadsheet, its columns guessed, looked at, and kept. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { FILE_COLUMNS, FILE_KINDS } from '../../../core/evidence/fileMap.ts';
import type { EvidenceMap, FileKind } from '../../../core/evidence/fileMap.ts';
import type { FileLook } from './fileLook.ts';
import { ChoiceLine, TextLine } from '../../ui/Field.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { tell } from '../../ui/client.ts';
import { useNotDone } from '../../ui/useNotDone.ts';
import { keyed } from '../../ui/keyed.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

type Given = { readonly file: File | null; readonly text: string };
type Asked = {
  kind: FileKind;
  given: Given;
  sheet: number;
  map: EvidenceMap | null;
  asOf: string;
  stated: 'stated' | 'estimated';
};

const NOTHING: Given = { file: null, text: '' };

function formOf(asked: Asked, market: Market, take: 'look' | 'keep'): FormData {
  const form = new FormData();
  const { kind, asOf, stated, sheet, map, given } = asked;
  const fields = {
    kind,
    asOf,
    stated,
    take,
    sheet: String(sheet),
    market: market.key,
    currency: market.view.doc.currency,
  };
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  if (map !== null) form.set('map', JSON.stringify(map));
  if (given.file === null) form.set('text', given.text);
  else form.set('file', given.file);
  return form;
}

export default function BringIn({
  market,
  url,
  today,
  onKept,
  onClose,
}: {
  market: Market;
  url: string;
  today: string;
  onKept: () => void;
  onClose: () => void;
}) {
  const { t } = useWords();
  const notDone = useNotDone();
  const [asked, setAsked] = useState<Asked>({
    kind: 'terms',
    given: { file: null, text: '' },
    sheet: 0,
    map: null,
    asOf: today,
    stated: 'stated',
  });
  const [look, setLook] = useState<FileLook | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [kept, setKept] = useState<string | null>(null);
  const turn = useRef(0);
  const ask = async (of: Asked, take: 'look' | 'keep'): Promise<void> => {
    const mine = ++turn.current;
    const told = await tell<FileLook>(`${url}/file`, formOf(of, market, take));
    // Whoever asks twice is answered by the last.
    if (mine !== turn.current) return;
    setWrong(told.ok ? null : notDone(told));
    if (!told.ok) return setLook(take === 'look' ? null : look);
    setLook(told.data);
    if (!told.data.kept) return;
    setKept(t('market.bring.kept', { count: told.data.good, kind: t(`market.kind.${of.kind}`) }));
    setLook(null);
    setAsked({ ...of, given: NOTHING, map: null, sheet: 0 });
    onKept();
  };
  // What is chosen is looked at at once, where there is something to look at.
  const change = (own: Partial<Asked>): void => {
    const next = { ...asked, ...own };
    setKept(null);
    setAsked(next);
    if ('asOf' in own || 'stated' in own) return;
    if (next.given.file !== null || next.given.text.trim() !== '') void ask(next, 'look');
    else {
      setLook(null);
      setWrong(null);
    }
  };
  return (
    <Box
      component="section"
      aria-label={t('market.bringIn')}
      sx={{ bgcolor: 'paperTint', p: 2, borderRadius: 1, mb: 2 }}>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'end', mb: 1 }}>
        <ChoiceLine
          label={t('market.bring.what')}
          width={210}
          value={asked.kind}
          onChange={(kind) => change({ kind, map: null })}
          options={FILE_KINDS.map((k) => ({ value: k, label: t(`market.bring.kinds.${k}`) }))}
        />
        <Button component="label" variant="outlined" size="small">
          {t('market.bring.file')}
          <input
            type="file"
            hidden
            accept=".csv,.txt,.tsv,.xlsx"
            onChange={(e) =>
              change({ given: { file: e.target.files?.[0] ?? null, text: '' }, map: null, sheet: 0 })
            }
          />
        </Button>
        <TextLine
          label={t('market.bring.asOf')}
          value={asked.asOf}
          onChange={(asOf) => change({ asOf })}
          width={110}
        />
        <ChoiceLine
          label={t('market.bring.how')}
          value={asked.stated}
          onChange={(stated) => change({ stated })}
          options={(['stated', 'estimated'] as const).map((x) => ({ value: x, label: t(`market.${x}`) }))}
        />
        <Button size="small" sx={{ ml: 'auto' }} onClick={onClose}>
          {t('market.bring.close')}
        </Button>
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 0.5 }}>
        {t(`market.bring.help.${asked.kind}`)}{' '}
        <a href={`/examples/${asked.kind}.csv`} download style={{ color: 'inherit' }}>
          {t('market.bring.example')}
        </a>
      </Typography>
      {asked.given.file === null ? (
        <TextLine
          label={t('market.bring.paste')}
          value={asked.given.text}
          onChange={(text) => change({ given: { file: null, text }, map: null })}
          multiline
          maxRows={7}
          width="100%"
          maxLength={1_000_000}
        />
      ) : (
        <Typography variant="body2">
          <b>{asked.given.file.name}</b>
        </Typography>
      )}
      {kept !== null && (
        <Alert severity="success" sx={{ mt: 1 }}>
          {kept}
        </Alert>
      )}
      {wrong !== null && (
        <Alert severity="error" sx={{ mt: 1 }}>
          {wrong}
        </Alert>
      )}
      {look !== null && (
        <Look asked={asked} look={look} change={change} onKeep={() => void ask(asked, 'keep')} />
      )}
    </Box>
  );
}

function Look({
  asked,
  look,
  change,
  onKeep,
}: {
  asked: Asked;
  look: FileLook;
  change: (own: Partial<Asked>) => void;
  onKeep: () => void;
}) {
  const { t } = useWords();
  const { map } = look;
  const headings = look.header.filter((h) => h !== '');
  const columnOf = (heading: string): string => {
    const key = Object.entries(map.columns).find(([, h]) => h === heading)?.[0];
    return key === undefined ? '' : t(`market.bring.column.${key}`);
  };
  const choose = (key: string, heading: string): void => {
    const { [key]: _, ...others } = map.columns;
    change({ map: { ...map, columns: heading === '' ? others : { ...others, [key]: heading } } });
  };
  const canKeep = look.stops.length === 0 && look.good > 0;
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1 }}>
        {look.sheets.length > 1 && (
          <ChoiceLine
            label={t('market.bring.sheet')}
            value={String(asked.sheet)}
            onChange={(s) => change({ sheet: Number(s), map: null })}
            options={look.sheets.map((name, i) => ({ value: String(i), label: name }))}
          />
        )}
        {FILE_COLUMNS[asked.kind].map((c) => (
          <ChoiceLine
            key={c.key}
            label={t(`market.bring.column.${c.key}`)}
            width={128}
            value={map.columns[c.key] ?? ''}
            onChange={(h) => choose(c.key, h)}
            options={[
              { value: '', label: t('market.bring.noColumn') },
              ...headings.map((h) => ({ value: h, label: h })),
            ]}
          />
        ))}
        <ChoiceLine
          label={t('market.bring.decimal')}
          value={map.decimal}
          onChange={(decimal) => change({ map: { ...map, decimal } })}
          options={(['point', 'comma'] as const).map((x) => ({
            value: x,
            label: t(`market.bring.decimals.${x}`),
          }))}
        />
        {(asked.kind === 'history' || asked.kind === 'terms' || asked.kind === 'permission') && (
          <ChoiceLine
            label={t('market.bring.days')}
            value={map.days}
            onChange={(days) => change({ map: { ...map, days } })}
            options={(['dayFirst', 'monthFirst'] as const).map((x) => ({
              value: x,
              label: t(`market.bring.dayOrder.${x}`),
            }))}
          />
        )}
      </Box>
      <FigureTable label={t('market.bring.preview')}>
        <thead>
          <tr>
            {keyed(look.header, (h) => h).map(({ key, item: h }) => (
              <th scope="col" key={key} className="text">
                {h}
                <Box sx={{ fontWeight: 650, color: 'text.primary' }}>{columnOf(h)}</Box>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {keyed(look.rows.slice(0, 5), (r) => r[0] ?? '').map(({ key, item: r }) => (
            <tr key={key}>
              {keyed(look.header, (h) => h).map(({ key: column, place: j }) => (
                <td key={column} className="text" dir="auto">
                  {r[j] ?? ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </FigureTable>
      {look.stops.map((s) => (
        <Alert key={s} severity="error" sx={{ mt: 1 }}>
          {s}
        </Alert>
      ))}
      <Typography variant="body2" role="status" sx={{ my: 1, fontWeight: 650 }}>
        {t('market.bring.good', { count: look.good })}{' '}
        {look.faultCount > 0 && t('market.bring.faults', { count: look.faultCount })}
      </Typography>
      {look.faults.length > 0 && (
        <Box sx={{ maxHeight: 180, overflowY: 'auto', mb: 1 }}>
          {look.faults.slice(0, 40).map((x) => (
            <Typography variant="body2" key={`${x.row}${x.column}${x.message}`}>
              {t('market.bring.row', {
                row: x.row,
                column: t(`market.bring.column.${x.column}`, { defaultValue: x.column }),
              })}
              : {x.message}
            </Typography>
          ))}
          <TableFile
            table={() => ({
              name: t('market.bring.faultFile'),
              columns: ['row', 'column', 'problem'].map((title) => ({ title })),
              rows: look.faults.map((x) => [x.row, x.column, x.message]),
            })}
          />
        </Box>
      )}
      <Button variant="contained" disabled={!canKeep} onClick={onKeep}>
        {t('market.bring.keep', { count: look.good })}
      </Button>
    </Box>
  );
}
