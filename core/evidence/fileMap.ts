/**
 * Files of evidence, as anybody makes them in a spreadsheet: which column says what. One registry; columns that are
 * offered, guessed and previewed follow from it. Headings in several languages.
 */
import { z } from 'zod';
import { shortText } from '../money/schema.ts';
import { decimalOf } from '../lists/amounts.ts';
import { eachOnce, headingFits, namedBy } from '../lists/headings.ts';

export const FILE_KINDS = [
  'terms',
  'bids',
  'rivals',
  'history',
  'offers',
  'units',
  'complaints',
  'permission',
] as const;
export type FileKind = (typeof FILE_KINDS)[number];

type Cell = 'text' | 'amount' | 'count' | 'share' | 'day' | 'month' | 'yes' | 'choice';
export type FileColumn = {
  readonly key: string;
  readonly cell: Cell;
  readonly headings: readonly string[];
  /** A row says nothing without it. */
  readonly required?: true;
  /** What a cell of choices may say, and the words it is said by. */
  readonly choices?: Readonly<Record<string, readonly string[]>>;
};

const TERM = [
  'term',
  'keyword',
  'search term',
  'search',
  'query',
  'suchbegriff',
  'begriff',
  'mot-clé',
  'palabra clave',
  'parola chiave',
  'fraza',
];
const MONTH = ['month', 'monat', 'mois', 'mes', 'mese', 'miesiąc', 'date'];
const LANGUAGE = ['language', 'sprache', 'langue', 'idioma', 'lingua', 'język'];
const PRICE = ['price', 'preis', 'prix', 'precio', 'prezzo', 'cena', 'amount'];
const TITLE = ['title', 'name', 'titel', 'titre', 'título', 'titolo', 'nazwa', 'product', 'listing title'];
const YES = {
  yes: ['yes', 'y', 'true', '1', 'x', 'ja', 'oui', 'sí', 'si', 'tak', 'paid', 'sponsored', 'ad'],
  no: ['no', 'n', 'false', '0', 'nein', 'non', 'nie', 'free', 'organic'],
} as const;

export const FILE_COLUMNS: Readonly<Record<FileKind, readonly FileColumn[]>> = {
  terms: [
    { key: 'term', cell: 'text', headings: TERM, required: true },
    { key: 'language', cell: 'text', headings: LANGUAGE },
    { key: 'month', cell: 'month', headings: MONTH },
    {
      key: 'volume',
      cell: 'count',
      headings: ['volume', 'searches', 'search volume', 'suchvolumen', 'volumen', 'wyszukiwania'],
    },
    {
      key: 'sales',
      cell: 'count',
      headings: ['sales', 'units sold', 'verkäufe', 'ventes', 'ventas', 'vendite', 'orders'],
    },
    { key: 'freePlace', cell: 'count', headings: ['free place', 'place', 'position', 'rank', 'platz'] },
    { key: 'paidPlace', cell: 'count', headings: ['paid place', 'ad place', 'bezahlter platz'] },
  ],
  bids: [
    { key: 'term', cell: 'text', headings: TERM, required: true },
    { key: 'language', cell: 'text', headings: LANGUAGE },
    {
      key: 'match',
      cell: 'choice',
      headings: ['match', 'match type', 'type'],
      choices: { exact: ['exact', 'genau'], phrase: ['phrase'], broad: ['broad', 'weit'] },
    },
    { key: 'low', cell: 'amount', headings: ['low', 'low bid', 'from', 'lowest', 'min bid', 'bid', 'von'] },
    { key: 'high', cell: 'amount', headings: ['high', 'high bid', 'to', 'highest', 'max bid', 'bis'] },
    { key: 'source', cell: 'text', headings: ['source', 'quelle'] },
  ],
  rivals: [
    {
      key: 'listing',
      cell: 'text',
      headings: ['listing', 'code', 'listing code', 'article number', 'number', 'id'],
    },
    { key: 'title', cell: 'text', headings: TITLE },
    { key: 'brand', cell: 'text', headings: ['brand', 'marke', 'marque', 'marca', 'marka'] },
    {
      key: 'seller',
      cell: 'text',
      headings: ['seller', 'verkäufer', 'vendeur', 'vendedor', 'venditore', 'sprzedawca'],
    },
    { key: 'price', cell: 'amount', headings: PRICE },
    {
      key: 'units',
      cell: 'count',
      headings: [
        'units',
        'sales',
        'units a month',
        'monthly units',
        'stück',
        'verkäufe',
        'unités',
        'unidades',
        'sztuk',
      ],
    },
    {
      key: 'reviews',
      cell: 'count',
      headings: [
        'reviews',
        'ratings',
        'number of ratings',
        'bewertungen',
        'avis',
        'opiniones',
        'recensioni',
        'opinie',
      ],
    },
    {
      key: 'rating',
      cell: 'amount',
      headings: ['rating', 'stars', 'sterne', 'note', 'estrellas', 'stelle', 'gwiazdki'],
    },
    { key: 'daysListed', cell: 'count', headings: ['days listed', 'age', 'days', 'alter', 'age in days'] },
    {
      key: 'offers',
      cell: 'count',
      headings: ['offers', 'sellers', 'angebote', 'offres', 'ofertas', 'offerte', 'oferty'],
    },
    { key: 'paid', cell: 'yes', headings: ['paid', 'paid place', 'ad', 'anzeige', 'publicité'] },
  ],
  history: [
    {
      key: 'day',
      cell: 'day',
      headings: ['day', 'date', 'datum', 'tag', 'jour', 'fecha', 'día', 'data', 'giorno', 'dzień'],
      required: true,
    },
    { key: 'price', cell: 'amount', headings: ['price', 'price with delivery', ...PRICE] },
    {
      key: 'currency',
      cell: 'text',
      headings: ['currency', 'währung', 'devise', 'moneda', 'valuta', 'waluta'],
    },
    { key: 'rank', cell: 'count', headings: ['rank', 'sales rank', 'rang', 'rango', 'ranga'] },
    {
      key: 'offers',
      cell: 'count',
      headings: ['offers', 'sellers', 'angebote', 'offres', 'ofertas', 'offerte', 'oferty'],
    },
    { key: 'ownShop', cell: 'yes', headings: ['own shop', 'marketplace offers', 'eigener shop'] },
    { key: 'promotion', cell: 'yes', headings: ['promotion', 'deal', 'aktion', 'promotion day', 'oferta'] },
  ],
  offers: [
    {
      key: 'seller',
      cell: 'text',
      headings: ['seller', 'verkäufer', 'vendeur', 'vendedor', 'venditore', 'sprzedawca'],
    },
    { key: 'price', cell: 'amount', headings: PRICE, required: true },
    {
      key: 'delivery',
      cell: 'amount',
      headings: ['delivery', 'shipping', 'versand', 'livraison', 'envío', 'spedizione', 'dostawa'],
    },
    { key: 'warehouse', cell: 'yes', headings: ['warehouse', 'from warehouse', 'lager', 'entrepôt'] },
    {
      key: 'of',
      cell: 'choice',
      headings: ['whose', 'of', 'kind'],
      choices: {
        ownShop: ['own shop', 'marketplace', 'shop'],
        ours: ['ours', 'mine', 'me', 'us'],
        other: ['other', 'rival', 'seller'],
      },
    },
    { key: 'isDefault', cell: 'yes', headings: ['default', 'default offer', 'standard'] },
  ],
  units: [
    { key: 'month', cell: 'month', headings: MONTH },
    { key: 'units', cell: 'count', headings: ['units', 'units a month', 'sold', 'stück', 'unités', 'sztuk'] },
    { key: 'code', cell: 'text', headings: ['variation', 'variation code', 'code', 'variante', 'wariant'] },
    { key: 'name', cell: 'text', headings: TITLE },
    { key: 'price', cell: 'amount', headings: PRICE },
    { key: 'ratings', cell: 'count', headings: ['ratings', 'reviews', 'bewertungen', 'avis', 'opinie'] },
  ],
  complaints: [
    {
      key: 'theme',
      cell: 'text',
      headings: ['theme', 'complaint', 'what', 'thema', 'beschwerde', 'thème', 'tema', 'temat'],
      required: true,
    },
    { key: 'share', cell: 'share', headings: ['share', 'part', 'percent', 'anteil', 'udział', '%'] },
    { key: 'count', cell: 'count', headings: ['count', 'how many', 'number', 'anzahl', 'nombre', 'liczba'] },
  ],
  permission: [
    { key: 'listing', cell: 'text', headings: ['listing', 'code', 'category', 'kategorie'] },
    {
      key: 'state',
      cell: 'choice',
      headings: ['state', 'permission', 'allowed', 'status', 'erlaubnis'],
      required: true,
      choices: {
        open: ['open', 'yes', 'allowed', 'offen', 'ja'],
        approval: ['approval', 'needs approval', 'ask', 'freigabe'],
        closed: ['closed', 'no', 'not allowed', 'geschlossen', 'nein'],
        rightsAlert: ['rights alert', 'alert', 'brand alert'],
      },
    },
    {
      key: 'by',
      cell: 'choice',
      headings: ['by', 'needs', 'what is asked'],
      choices: {
        documents: ['documents', 'invoice', 'papers'],
        purchase: ['purchase', 'first purchase', 'order'],
      },
    },
    { key: 'units', cell: 'count', headings: ['units', 'quantity', 'menge'] },
    { key: 'price', cell: 'amount', headings: PRICE },
    { key: 'asked', cell: 'day', headings: ['asked', 'asked on', 'gefragt'] },
    { key: 'answered', cell: 'day', headings: ['answered', 'answered on', 'beantwortet'] },
    { key: 'who', cell: 'text', headings: ['who', 'by whom', 'wer'] },
  ],
};
export const YES_WORDS = YES;

/** Which column of the file says what, by heading; how its numbers and days are written. */
export const evidenceMap = z.strictObject({
  columns: z.record(z.string().max(40), shortText),
  decimal: z.enum(['point', 'comma']).default('point'),
  /** How days with strokes or dots are written: 3/4 is 3 April, or 4 March. */
  days: z.enum(['dayFirst', 'monthFirst']).default('dayFirst'),
});
export type EvidenceMap = z.output<typeof evidenceMap>;

/** The month a heading names: `2026-10`, `10/2026`, `10.2026`, `Oct 2026`; null: none. */
export function monthOfHeading(heading: string): string | null {
  const h = heading.trim().toLowerCase();
  const iso = /^(\d{4})[-/.](\d{1,2})$/.exec(h);
  const turned = /^(\d{1,2})[-/.](\d{4})$/.exec(h);
  const named = /^(\p{L}{3,9})\.?[\s-]+'?(\d{4}|\d{2})$/u.exec(h);
  const [year, month] =
    iso !== null
      ? [Number(iso[1]), Number(iso[2])]
      : turned !== null
        ? [Number(turned[2]), Number(turned[1])]
        : named !== null
          ? [
              Number((named[2] as string).length === 2 ? `20${named[2]}` : named[2]),
              monthNamed(named[1] as string),
            ]
          : [0, 0];
  return month >= 1 && month <= 12 ? `${year}-${String(month).padStart(2, '0')}` : null;
}
/** Names of months as they begin, in the languages of the headings. */
const MONTHS: readonly RegExp[] = [
  /^(jan|ene|gen|sty)/,
  /^(feb|fév|fev|lut)/,
  /^(mar|mär|mrz)/,
  /^(apr|avr|abr|kwi)/,
  /^(may|mai|mag|maj)/,
  /^(jun|juin|giu|cze)/,
  /^(jul|juil|lug|lip)/,
  /^(aug|aoû|aou|ago|sie)/,
  /^(sep|set|wrz)/,
  /^(oct|okt|ott|paź|paz)/,
  /^(nov|lis)/,
  /^(dec|dez|déc|dic|gru)/,
];
const monthNamed = (name: string): number => MONTHS.findIndex((m) => m.test(name)) + 1;

/** How days are written in these cells: only where one of them cannot be read the other way round. */
function daysOf(cells: readonly string[]): EvidenceMap['days'] {
  const parts = cells.map((c) => /^(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}/.exec(c.trim()));
  const month = parts.some((p) => p !== null && Number(p[2]) > 12);
  return month ? 'monthFirst' : 'dayFirst';
}

/** Guesses which column says what, from headings and the first rows: each role the column that fits it best. */
export function guessEvidenceMap(
  kind: FileKind,
  header: readonly string[],
  rows: readonly (readonly string[])[],
): EvidenceMap {
  const scored = FILE_COLUMNS[kind].flatMap((role) =>
    header.map((heading, at) => {
      const fit = monthOfHeading(heading) === null ? headingFits(heading, role.headings) : 0;
      return { key: role.key as string, at, score: fit };
    }),
  );
  const columns = namedBy(header, eachOnce(scored)) as Record<string, string>;
  const dayColumn = header.indexOf(columns.day ?? '');
  return {
    columns,
    decimal: decimalOf(rows),
    days: dayColumn < 0 ? 'dayFirst' : daysOf(rows.map((r) => r[dayColumn] ?? '')),
  };
}
