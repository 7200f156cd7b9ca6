import { redirect } from 'react-router';
import { loadPurse } from '../../server/use/purse.ts';

/** The candidates of a workspace as the purse reads them: what all pages of several launches show. */
export async function purseSource(entry: { workspaceId: string; slug: string }) {
  const source = await loadPurse(entry.workspaceId);
  if (source === null) throw redirect(`/w/${entry.slug}`);
  return source;
}
