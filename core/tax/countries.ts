/** Countries that starter cards cover, with their currencies. */
export const COUNTRY_CURRENCY: Readonly<Record<string, string>> = {
  DE: 'EUR',
  FR: 'EUR',
  ES: 'EUR',
  IT: 'EUR',
  PL: 'PLN',
  GB: 'GBP',
  US: 'USD',
  JP: 'JPY',
  AE: 'AED',
};

/** Countries of the European Union, one customs territory. */
const UNION = new Set([
  'AT',
  'BE',
  'BG',
  'CY',
  'CZ',
  'DE',
  'DK',
  'EE',
  'ES',
  'FI',
  'FR',
  'GR',
  'HR',
  'HU',
  'IE',
  'IT',
  'LT',
  'LU',
  'LV',
  'MT',
  'NL',
  'PL',
  'PT',
  'RO',
  'SE',
  'SI',
  'SK',
]);

/** Whether goods from `origin` cross a customs border on their way to `country`. */
export function crossesCustoms(origin: string, country: string): boolean {
  return origin !== country && !(UNION.has(origin) && UNION.has(country));
}
