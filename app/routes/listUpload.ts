import { Readable } from 'node:stream';
import { data } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { fault } from '../../core/fault.ts';
import { inWords } from '../../words/index.ts';
import { receiveList, receiveReference } from '../../server/use/receiveLists.ts';
import type { Route } from './+types/listUpload.ts';
import { answering, unfit } from '../answers.ts';

/** Takes a file in as the raw body of the request, piece by piece: neither browser nor server holds it in memory. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const search = new URL(request.url).searchParams;
  const name =
    (search.get('name') ?? '')
      .replace(/[\\/\0]/g, ' ')
      .trim()
      .slice(0, 200) || 'List';
  if (request.body === null) return unfit(fault('fileEmpty'));
  const body = Readable.fromWeb(request.body as never);
  try {
    const list = search.get('for');
    if (list !== null) {
      await receiveReference(entry.workspaceId, list, name, body);
      return data({ id: list, sameAs: null });
    }
    return data(await receiveList(entry.workspaceId, name, body, entry.person.id));
  } catch (e) {
    // The line went dead: nobody hears the answer, and nothing was kept.
    if (
      request.signal.aborted ||
      ['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE', 'ABORT_ERR'].includes((e as { code?: string }).code ?? '')
    )
      return data({ error: inWords(fault('fileBroken')) }, 400);
    throw e;
  }
});
