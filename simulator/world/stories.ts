/** Goods planted in the world, each with a story worth telling; listing numbers below `PLANTED`. */
export type Story = {
  readonly thing: string;
  readonly material: number;
  /** Price in euros, and units a month in the largest market. */
  readonly price: number;
  readonly units: number;
  readonly brand: string;
  readonly gtin: string;
  readonly has?:
    | 'spike'
    | 'brandOwns'
    | 'fewReviews'
    | 'closed'
    | 'approval'
    | 'ownShop'
    | 'thin'
    | 'cheaper'
    | 'variation'
    | 'holiday'
    | 'rightsAlert';
};
export const STORIES: readonly Story[] = [
  {
    thing: 'bee house',
    material: 0,
    price: 33.9,
    units: 420,
    brand: '',
    gtin: '9520000010010',
    has: 'fewReviews',
  },
  {
    thing: 'moss pole',
    material: 7,
    price: 17.4,
    units: 260,
    brand: '',
    gtin: '9520000010027',
    has: 'variation',
  },
  {
    thing: 'seed kit',
    material: 5,
    price: 22.4,
    units: 380,
    brand: '',
    gtin: '9520000010034',
    has: 'brandOwns',
  },
  {
    thing: 'hedgehog shelter',
    material: 4,
    price: 72,
    units: 110,
    brand: 'Wrenmere',
    gtin: '9520000010041',
    has: 'holiday',
  },
  {
    thing: 'window feeder',
    material: 5,
    price: 21.5,
    units: 640,
    brand: '',
    gtin: '9520000010058',
    has: 'spike',
  },
  { thing: 'rain gauge', material: 5, price: 34, units: 90, brand: '', gtin: '9520000010065' },
  {
    thing: 'propagation tray',
    material: 5,
    price: 29,
    units: 120,
    brand: '',
    gtin: '9520000010072',
    has: 'thin',
  },
  { thing: 'willow arch', material: 1, price: 86, units: 40, brand: '', gtin: '9520000010089' },
  {
    thing: 'suet balls',
    material: 7,
    price: 20.5,
    units: 900,
    brand: 'Fenby',
    gtin: '9520000010096',
    has: 'ownShop',
  },
  {
    thing: 'coir pots',
    material: 7,
    price: 18.4,
    units: 240,
    brand: 'Sedgeley',
    gtin: '9520000010102',
    has: 'approval',
  },
  {
    thing: 'nest box camera',
    material: 5,
    price: 63,
    units: 180,
    brand: 'Thornwick',
    gtin: '9520000010119',
    has: 'closed',
  },
  {
    thing: 'plant labels',
    material: 5,
    price: 17.5,
    units: 150,
    brand: 'Heathcombe',
    gtin: '9520000010126',
    has: 'rightsAlert',
  },
  {
    thing: 'barrel tap',
    material: 5,
    price: 26.9,
    units: 130,
    brand: 'Brookham',
    gtin: '9520000010133',
    has: 'cheaper',
  },
  {
    thing: 'trellis netting',
    material: 7,
    price: 14.6,
    units: 310,
    brand: 'Reedstead',
    gtin: '9520000010140',
  },
  { thing: 'bat guide', material: 7, price: 12.5, units: 35, brand: '', gtin: '9520000010157' },
  { thing: 'olla', material: 3, price: 27.5, units: 140, brand: '', gtin: '9520000010164' },
];
export const PLANTED = STORIES.length;
