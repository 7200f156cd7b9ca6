/** What a lane may choose from. Apart from the schemas, so that whoever only reckons does not carry them. */
export const WAYS = ['ownBrand', 'retail', 'wholesale', 'supplierShips', 'feeCheck'] as const;
export type Way = (typeof WAYS)[number];

export const INCOTERMS = [
  'EXW',
  'FCA',
  'FAS',
  'FOB',
  'CFR',
  'CPT',
  'CIF',
  'CIP',
  'DAP',
  'DPU',
  'DDP',
] as const;
export type Incoterm = (typeof INCOTERMS)[number];
