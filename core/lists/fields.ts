/**
 * What a supplier's file can say of a row, and which figures of a row can be shown: each said once. From here
 * follow the columns that are offered and guessed, what is read and kept, and the columns, limits and exports
 * of a list.
 */
import { BIT } from '../lane/blanks.ts';
import { FIGURE_BLANKS } from '../lane/figures.ts';

type RoleRule = {
  /** What suppliers call the column, in several languages, lower case: as a whole heading first, then as a part. */
  readonly headings: readonly string[];
  readonly required?: true;
  /** Offered without being asked for: most lists have it. */
  readonly usual?: true;
  /** Written in digits: a column of words is something else, whatever its heading. */
  readonly digits?: true;
  /** Place in the preview of the set-up. */
  readonly preview?: number;
  /** A number that no formula reads: kept beside the others, above 0 or 0 too. */
  readonly aside?: 'above0' | 'zeroToo';
};

/** By role: what a column of a supplier's file (or of market figures) can be. */
export const LIST_ROLES = {
  identifier: {
    headings: [
      'ean',
      'gtin',
      'barcode',
      'upc',
      'ean13',
      'ean code',
      'ean-code',
      'gtin13',
      'strichcode',
      'code-barres',
      'código de barras',
      'codice a barre',
      'kod kreskowy',
      'isbn',
    ],
    required: true,
    preview: 1,
  },
  cost: {
    headings: [
      'price',
      'cost',
      'net price',
      'unit price',
      'purchase price',
      'wholesale price',
      'buy price',
      'trade price',
      'ek',
      'ek-preis',
      'einkaufspreis',
      'preis',
      'netto',
      'nettopreis',
      'stückpreis',
      'prix',
      "prix d'achat",
      'prix ht',
      'precio',
      'precio neto',
      'prezzo',
      'cena',
      'cena netto',
      'your price',
      'offer price',
    ],
    required: true,
    digits: true,
    preview: 5,
  },
  title: {
    headings: [
      'title',
      'name',
      'article',
      'product',
      'product name',
      'description',
      'item',
      'item name',
      'bezeichnung',
      'artikel',
      'artikelbezeichnung',
      'artikelname',
      'produkt',
      'titel',
      'désignation',
      'libellé',
      'nombre',
      'descripción',
      'descrizione',
      'nome',
      'nazwa',
      'opis',
    ],
    usual: true,
    preview: 2,
  },
  brand: {
    headings: [
      'brand',
      'maker',
      'make',
      'marke',
      'hersteller',
      'manufacturer',
      'marque',
      'marca',
      'marka',
      'producent',
      'fabricant',
    ],
    usual: true,
    preview: 3,
  },
  category: {
    headings: [
      'category',
      'kategorie',
      'warengruppe',
      'product group',
      'catégorie',
      'categoría',
      'categoria',
      'kategoria',
      'group',
      'department',
    ],
    usual: true,
    preview: 4,
  },
  packSize: {
    headings: [
      'pack size',
      'pack',
      'pcs',
      'pieces',
      'pieces in a pack',
      'contents',
      'inhalt',
      'packung',
      'packungsinhalt',
      'contenu',
      'contenido',
      'contenuto',
      'confezione',
      'opakowanie',
    ],
    usual: true,
    preview: 7,
  },
  size: {
    headings: [
      'dimensions',
      'size',
      'size cm',
      'l x w x h',
      'lxwxh',
      'masse',
      'maße',
      'abmessungen',
      'dimensiones',
      'dimensioni',
      'wymiary',
    ],
    usual: true,
    preview: 8,
  },
  length: {
    headings: [
      'length',
      'l',
      'l cm',
      'l mm',
      'länge',
      'laenge',
      'longueur',
      'largo',
      'lunghezza',
      'długość',
      'depth',
      'tiefe',
    ],
    digits: true,
  },
  width: {
    headings: ['width', 'w', 'w cm', 'w mm', 'b cm', 'breite', 'largeur', 'ancho', 'larghezza', 'szerokość'],
    digits: true,
  },
  height: {
    headings: ['height', 'h', 'h cm', 'h mm', 'höhe', 'hoehe', 'hauteur', 'alto', 'altezza', 'wysokość'],
    digits: true,
  },
  weight: {
    headings: [
      'weight',
      'gewicht',
      'gross weight',
      'bruttogewicht',
      'poids',
      'peso',
      'waga',
      'weight kg',
      'gewicht kg',
    ],
    usual: true,
    digits: true,
    preview: 9,
  },
  price: {
    headings: [
      'shelf price',
      'selling price',
      'market price',
      'retail price',
      'rrp',
      'uvp',
      'vk',
      'vk-preis',
      'verkaufspreis',
      'prix de vente',
      'pvp',
      'precio de venta',
      'prezzo di vendita',
      'cena sprzedaży',
      'list price',
    ],
    usual: true,
    digits: true,
    preview: 10,
  },
  price30: {
    headings: ['price 30', '30 day price', 'average price 30 days', 'price 30 days'],
    digits: true,
    aside: 'above0',
  },
  price90: {
    headings: ['price 90', '90 day price', 'average price 90 days', 'price 90 days'],
    digits: true,
    aside: 'above0',
  },
  units: {
    headings: [
      'monthly units',
      'units a month',
      'sales a month',
      'monthly sales',
      'absatz',
      'absatz/monat',
      'units sold',
      'ventes',
      'ventas',
      'vendite',
      'sprzedaż',
    ],
    usual: true,
    digits: true,
    preview: 11,
  },
  rank: { headings: ['rank', 'sales rank', 'rang'], digits: true, aside: 'zeroToo' },
  offers: {
    headings: ['offers', 'sellers', 'anbieter', 'offres', 'vendedores', 'offerte', 'oferty'],
    digits: true,
    aside: 'zeroToo',
  },
  minimumOrder: {
    headings: [
      'minimum order',
      'min order',
      'moq',
      'minimum',
      'mindestmenge',
      'mindestbestellmenge',
      'minimum de commande',
      'pedido mínimo',
      'ordine minimo',
      'minimum zamówienia',
    ],
    usual: true,
    digits: true,
    preview: 12,
  },
  carton: {
    headings: [
      'carton',
      'carton size',
      'carton qty',
      'per carton',
      'units per carton',
      'pieces per carton',
      'outer',
      'outer carton',
      'master carton',
      'karton',
      'stück je karton',
      'kartoninhalt',
      'cartone',
      'carton de',
      'order multiple',
      'multiple',
      've',
      'vpe',
      'verpackungseinheit',
      'case',
      'case size',
      'units per case',
      'inner',
      'colisage',
      'conditionnement',
      'unidades por caja',
    ],
    usual: true,
    digits: true,
    preview: 13,
  },
  breakFrom: {
    headings: [
      'from quantity',
      'break 1',
      'break 1 from',
      'from qty',
      'ab menge',
      'staffel 1',
      'staffelmenge 1',
      'qty break 1',
    ],
    digits: true,
  },
  breakCost: {
    headings: ['price from quantity', 'break 1 price', 'price 2', 'staffelpreis 1', 'bulk price'],
    digits: true,
    preview: 14,
  },
  breakFrom2: {
    headings: ['break 2', 'break 2 from', 'staffel 2', 'staffelmenge 2', 'qty break 2'],
    digits: true,
  },
  breakCost2: { headings: ['break 2 price', 'price 3', 'staffelpreis 2'], digits: true, preview: 15 },
  vatRate: {
    headings: ['vat', 'vat rate', 'vat %', 'mwst', 'ust', 'steuersatz', 'tva', 'iva', 'tax rate'],
    usual: true,
    digits: true,
    preview: 6,
  },
  link: { headings: ['link', 'url', 'page', 'website', 'product link'] },
  picture: { headings: ['picture', 'image', 'photo', 'image url', 'bild', 'foto', 'immagine', 'zdjęcie'] },
  stock: {
    headings: [
      'stock',
      'quantity',
      'qty',
      'available',
      'bestand',
      'lagerbestand',
      'menge',
      'verfügbar',
      'disponible',
      'disponibilità',
      'stan',
    ],
    usual: true,
    digits: true,
    preview: 16,
    aside: 'zeroToo',
  },
  notes: { headings: ['notes', 'note', 'remarks', 'comment', 'bemerkung', 'hinweis', 'remarque', 'notas'] },
  listingTitle: { headings: ['listing title', 'market title'] },
  listingPackSize: { headings: ['listing pack', 'listing pack size'] },
} as const satisfies Record<string, RoleRule>;
export type Role = keyof typeof LIST_ROLES;
export const roleRule = (role: Role): RoleRule => LIST_ROLES[role];
export const ROLES = Object.keys(LIST_ROLES) as [Role, ...Role[]];
export const REQUIRED_ROLES = ROLES.filter((r) => roleRule(r).required === true);
export const OPTIONAL_ROLES = ROLES.filter((r) => roleRule(r).required !== true);
export const PREVIEW_ROLES = ROLES.filter((r) => roleRule(r).preview !== undefined).sort(
  (a, b) => (roleRule(a).preview as number) - (roleRule(b).preview as number),
);

type Aside = { [R in Role]: (typeof LIST_ROLES)[R] extends { aside: string } ? R : never }[Role];
/** Numbers that are kept beside those the formulas read. */
export const ASIDE_COLUMNS = ROLES.filter((r): r is Aside => roleRule(r).aside !== undefined);
export type AsideColumns = Readonly<Record<Aside, Float64Array>>;

type FigureRule = {
  /** Money in the currency the list is bought in, or sells in; a share; else a number with so many decimals. */
  readonly unit: 'purchase' | 'sales' | 'share' | { readonly decimals: number };
  /** Only lists that say one of these have it. */
  readonly of?: readonly Role[];
  /** Only a list that has an edition before it. */
  readonly sinceBefore?: true;
  /** What it is while costs are missing: no more than it says, no less; a price that has to be above, or below it. */
  readonly bound?: 'atMost' | 'atLeast' | 'above' | 'lessThan';
  /** A limit that a cent more would break: rounded down. */
  readonly roundsDown?: true;
  /** Under the grid stands what rows have of it together, beside its median. */
  readonly adds?: true;
};
const pieces = { decimals: 0 } as const;

/**
 * Figures of a row that can be shown, sorted and limited; per unit sold, those in the purchase currency per
 * unit bought.
 */
export const LIST_FIGURE = {
  cost: { unit: 'purchase' },
  price: { unit: 'sales' },
  units: { unit: pieces, adds: true },
  unitProfit: { unit: 'sales', bound: 'atMost' },
  margin: { unit: 'share', bound: 'atMost' },
  roi: { unit: 'share', bound: 'atMost' },
  profitPerMonth: { unit: 'sales', adds: true, bound: 'atMost' },
  breakEvenPrice: { unit: 'sales', bound: 'above' },
  mostToPay: { unit: 'purchase', bound: 'lessThan', roundsDown: true },
  landedCost: { unit: 'sales', bound: 'atLeast' },
  fees: { unit: 'sales' },
  fulfilment: { unit: 'sales' },
  quantity: { unit: pieces, adds: true },
  paid: { unit: 'purchase', of: ['breakCost', 'breakCost2'] },
  minimumOrder: { unit: pieces, of: ['minimumOrder'] },
  carton: { unit: pieces, of: ['carton'] },
  kg: { unit: { decimals: 3 } },
  rank: { unit: pieces, of: ['rank'] },
  offers: { unit: pieces, of: ['offers'] },
  stock: { unit: pieces, of: ['stock'], adds: true },
  pack: { unit: pieces },
  before: { unit: 'purchase', sinceBefore: true },
} as const satisfies Record<string, FigureRule>;
export type ListFigure = keyof typeof LIST_FIGURE;
export const listFigureRule = (figure: ListFigure): FigureRule => LIST_FIGURE[figure];
export const LIST_FIGURES = Object.keys(LIST_FIGURE) as [ListFigure, ...ListFigure[]];
export const isListFigure = (id: string): id is ListFigure => Object.hasOwn(LIST_FIGURE, id);

/** Figures that a list can have: by what its file says, and whether there was an edition before it. */
export const figuresOf = (has: readonly string[], hasPrevious: boolean): ListFigure[] =>
  LIST_FIGURES.filter((f) => {
    const { of, sinceBefore } = listFigureRule(f);
    if (sinceBefore && !hasPrevious) return false;
    return of === undefined || of.some((role) => has.includes(role));
  });

const BOUNDED: Partial<Record<ListFigure, number>> = {
  unitProfit: FIGURE_BLANKS.unitProfit & ~BIT.demand,
  margin: FIGURE_BLANKS.margin & ~BIT.demand,
  roi: FIGURE_BLANKS.roi & ~BIT.demand,
  profitPerMonth: FIGURE_BLANKS.profitPerMonth & ~BIT.demand,
  landedCost: FIGURE_BLANKS.landedCost,
  breakEvenPrice: FIGURE_BLANKS.unitProfit & ~BIT.price,
  mostToPay: FIGURE_BLANKS.unitProfit & ~BIT.goods,
};
/** The blanks (as bits) without which a figure is a bound; 0: it never is. */
export const costsOf = (figure: ListFigure): number => BOUNDED[figure] ?? 0;

/** What suppliers call their own number of an article: kept as it is, and in every file that goes out. */
export const ARTICLE_NUMBERS: readonly string[] = [
  'article no',
  'article nr',
  'article number',
  'item no',
  'item number',
  'item code',
  'product code',
  'product no',
  'supplier code',
  'sku',
  'ref',
  'reference',
  'artikelnummer',
  'artikel nr',
  'art nr',
  'bestellnummer',
  'bestell nr',
  'référence',
  'référence article',
  'codice articolo',
  'código artículo',
  'referencia',
  'nr artykułu',
  'artikelnr',
];
