/** The query of a list: it lives in the address, so that Back, a link and a bookmark bring it with them. */
import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { queryIn, searchOf } from '../../../core/lists/query.ts';
import type { ListQuery } from '../../../core/lists/query.ts';
import { useLatest } from '../../ui/useLatest.ts';

export function useListQuery(first: ListQuery, ofLook: ListQuery) {
  const [search, setSearch] = useSearchParams();
  const [query, setQueryState] = useState(first);
  const [removed, setRemoved] = useState(search.get('removed') === '1');
  const setQuery = useLatest((next: ListQuery, showRemoved: boolean = removed): void => {
    setQueryState(next);
    setRemoved(showRemoved);
    const s = searchOf(next);
    if (next.filters.length === 0 && next.text === '') s.set('all', '1');
    if (showRemoved) s.set('removed', '1');
    setSearch(s, { replace: true, preventScrollReset: true });
  });
  // Back and a link that is followed bring their query with them.
  const address = search.toString();
  const ours = useRef(address);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the address alone decides
  useEffect(() => {
    const mine = searchOf(query);
    if (query.filters.length === 0 && query.text === '') mine.set('all', '1');
    if (removed) mine.set('removed', '1');
    if (address === ours.current || address === mine.toString()) {
      ours.current = address;
      return;
    }
    ours.current = address;
    setQueryState(address === '' ? ofLook : queryIn(search));
    setRemoved(search.get('removed') === '1');
  }, [address]);
  return { query, removed, setQuery };
}
