/**
 * What the demo company follows of each candidate: its listing in the invented world of the market feed, and the
 * words people search by in each country. The evidence itself comes from the feed, as everybody's does.
 */
export type Followed = {
  readonly listing: string;
  readonly search: Readonly<Record<string, string>>;
  /** Code of the variation that is followed. */
  readonly variation?: string;
  /** Days ago that a lane's price was taken from the market: newer evidence would change it. */
  readonly priceTaken?: number;
  readonly care?: readonly { readonly what: string; readonly state: 'open' | 'fine' | 'trouble' }[];
};

export const demoFollowed: Readonly<Record<string, Followed>> = {
  'Bee house, larch, three chambers': {
    listing: 'LT000000',
    search: {
      DE: 'Bienenhaus',
      FR: 'maison à abeilles',
      ES: 'casa de abejas',
      IT: 'casa per api',
      PL: 'domek dla pszczół',
      GB: 'bee house',
      US: 'bee house',
      JP: '蜂の家',
      AE: 'بيت النحل',
    },
    care: [
      { what: 'Patents', state: 'fine' },
      { what: 'Sample seen', state: 'open' },
    ],
  },
  'Moss pole, bendable, 60 cm': {
    listing: 'LT000001',
    variation: 'LT000001-1',
    search: { ES: 'tutor de musgo', DE: 'Moosstab', PL: 'palik mchowy' },
  },
  'Seed-starting kit, 24 cells with lid': {
    listing: 'LT000002',
    search: { DE: 'Anzuchtset', GB: 'seed kit' },
  },
  'Hedgehog shelter, slate roof': { listing: 'LT000003', search: { GB: 'hedgehog shelter', DE: 'Igelhaus' } },
  'Window feeder, two suction rails': {
    listing: 'LT000004',
    search: { DE: 'Fensterfutterhaus', FR: 'mangeoire de fenêtre' },
  },
  'Rain gauge, brass, on a stake': { listing: 'LT000005', search: { IT: 'pluviometro' } },
  'Propagation tray, steel, four pieces': {
    listing: 'LT000006',
    search: { JP: '育苗トレー', DE: 'Anzuchtschale' },
  },
  'Willow arch, 240 cm': { listing: 'LT000007', search: { DE: 'Weidenbogen' } },
  'Suet balls, tub of 50': { listing: 'LT000008', search: { DE: 'Meisenknödel' } },
  'Coir pots, 8 cm, pack of 48': { listing: 'LT000009', search: { DE: 'Kokostöpfe' } },
  'Nest box camera, clearance': { listing: 'LT000010', search: { DE: 'Nistkastenkamera' } },
  'Copper plant labels, tin of 20': { listing: 'LT000011', search: { DE: 'Pflanzschilder' } },
  'Rain barrel tap kit': { listing: 'LT000012', search: { DE: 'Regentonnenhahn' }, priceTaken: 75 },
  'Trellis netting, 2 × 10 m': { listing: 'LT000013', search: { DE: 'Ranknetz' } },
  'Bat guide, second-hand hardback': { listing: 'LT000014', search: { DE: 'Fledermausführer' } },
  'Terracotta olla, 2 litres': { listing: 'LT000015', search: { DE: 'Olla' } },
};
