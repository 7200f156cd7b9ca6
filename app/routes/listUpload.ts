import { Readable } from 'node:stream';
import { data } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { fault } from '../../core/fault.ts';
import { receiveList, receiveReference } from '../../server/use/receiveLists.ts';
import type { Route } from './+types/listUpload.ts';
import { answering, unfit } from '../answers.ts';
import { fileName, isBrokenOff } from '../fileSent.ts';

/** Takes a file in as the raw body of the request, piece by piece: neither browser nor server holds it in memory. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const name = fileName(request, 'List');
  if (request.body === null) return unfit(fault('fileEmpty'));
  const body = Readable.fromWeb(request.body as never);
  try {
    const list = new URL(request.url).searchParams.get('for');
    if (list !== null) {
      await receiveReference(entry.workspaceId, list, name, body);
      return data({ id: list, sameAs: null });
    }
    return data(await receiveList(entry.workspaceId, name, body, entry.person.id));
  } catch (e) {
    if (isBrokenOff(e, request)) return unfit(fault('fileBroken'));
    throw e;
  }
});
