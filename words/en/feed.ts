/** Words of the description of a market feed (docs/feed.openapi.json). */
export const feedWords = {
  title: 'Market feed',
  description:
    'What Bold Margin asks of a market feed. Every answer says as of which day it speaks and how much of the market ' +
    'it sees. The secret comes as a bearer token.',
  answer: 'The answer',
  trouble: {
    '404': 'There is no such market or listing',
    '422': 'The question is not understood',
    '429': 'Too many questions; the header retry-after says how many seconds to wait',
    '503': 'Not now',
  },
  about: {
    markets: 'Markets with their languages and how much of them is seen',
    categories: 'Categories of a market, with return rate and units by rank',
    search: 'Listings by words, category and ranges, in pages',
    listing: 'A listing with its variations and units',
    history: 'A listing day by day',
    offers: 'Who offers a listing today',
    permission: 'Whether this seller may sell it',
    complaints: 'What buyers complain of, by theme',
    'listing-terms': 'Terms that a listing is found by, with free and paid place',
    terms: 'Terms about something, with monthly volumes',
    bids: 'Bids a click, by source and match type',
    barcode: 'Listings of a barcode',
    barcodes: 'Listings of many barcodes at once',
    shops: 'Shops whose catalogues may be read, with their categories',
    catalogue: 'A page of a category of a shop’s catalogue',
    picture: 'The picture of a listing (with market) or of goods of a shop (with shop)',
    picks: 'Listings that are new, rising, best selling, or any',
  },
} as const;
