import { data } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { outSheets } from '../../server/files/cardFiles.ts';
import { fileAnswer } from '../fileAnswer.ts';
import { writeCsv, writeXlsx } from '../../server/files/sheets.ts';
import { loadCards } from '../../server/use/cards.ts';
import type { Route } from './+types/rateFile.ts';
import { answering } from '../answers.ts';

/** A card as a file: the whole as JSON or a workbook, one table as CSV. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const search = new URL(request.url).searchParams;
  const [card] = await loadCards(entry.workspaceId, [search.get('card') ?? '']);
  if (card === undefined) throw data(null, 404);
  const name = `${card.name} ${card.inForceFrom}`;
  if (search.get('as') === 'json')
    return fileAnswer(
      `${name}.json`,
      JSON.stringify(
        { format: 'bold-margin/rate-card', version: 1, kind: card.kind, data: card.data },
        null,
        2,
      ),
    );
  if (search.get('as') === 'csv') {
    const [sheet] = outSheets(card.kind, card.data, search.get('sheet'));
    if (sheet === undefined) throw data(null, 404);
    return fileAnswer(`${name} ${sheet.name}.csv`, writeCsv(sheet));
  }
  return fileAnswer(`${name}.xlsx`, await writeXlsx(outSheets(card.kind, card.data)));
});
