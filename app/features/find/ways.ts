/** Addresses from one place of a market to another; the browser's back leads back. */
type Place = { readonly root: string; readonly market: string | null };

const query = (market: string | null, parts: Record<string, string>): URLSearchParams =>
  new URLSearchParams({ ...(market === null ? {} : { market }), ...parts });

/** To the page of a listing. */
export const toListing = ({ root, market }: Place, code: string): string =>
  `${root}/find/listing?${query(market, { code })}`;

/** To the shop of a seller. */
export const toSeller = ({ root, market }: Place, seller: string): string =>
  `${root}/find/seller?${query(market, { seller })}`;

/** To all goods of a brand, the best selling first. */
export const toGoodsOf = ({ root, market }: Place, of: { brand: string }): string =>
  `${root}/find/market?${query(market, { ...of, sort: 'units' })}`;

/** To searching a market. */
export const toSearch = ({ root, market }: Place): string => `${root}/find/market?${query(market, {})}`;
