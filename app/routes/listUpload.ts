import { Readable } from 'node:stream';
import { data } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { ListError } from '../../server/files/lists.ts';
import { FileRefused } from '../../server/files/store.ts';
import { receiveList, receiveReference } from '../../server/use/receiveLists.ts';
import type { Route } from './+types/listUpload.ts';
import { answering } from '../answers.ts';

/** Takes a file in as the raw body of the request, piece by piece: neither browser nor server holds it in memory. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const search = new URL(request.url).searchParams;
  const name =
    (search.get('name') ?? '')
      .replace(/[\\/\0]/g, ' ')
      .trim()
      .slice(0, 200) || 'List';
  if (request.body === null)
    return data({ error: 'The file is empty. Choose a file with a header line and rows.' }, 422);
  const body = Readable.fromWeb(request.body as never);
  try {
    const list = search.get('for');
    if (list !== null) {
      await receiveReference(entry.workspaceId, list, name, body);
      return data({ id: list, sameAs: null });
    }
    return data(await receiveList(entry.workspaceId, name, body, entry.person.id));
  } catch (e) {
    if (e instanceof FileRefused) return data({ error: e.message }, e.status);
    if (e instanceof ListError) return data({ error: e.message }, 422);
    // The line went dead: nobody hears the answer, and nothing was kept.
    if (
      request.signal.aborted ||
      ['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE', 'ABORT_ERR'].includes((e as { code?: string }).code ?? '')
    )
      return data({ error: 'The file did not arrive whole. Nothing of it was kept; send it again.' }, 400);
    throw e;
  }
});
