import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { CatalogueSetup } from '../../../core/shops/schema.ts';
import { catalogueSetup } from '../../../core/shops/schema.ts';
import { listSettings } from '../../../core/lists/settings.ts';
import { ShopPage } from './ShopPage.tsx';
import type { ShopShown } from './useShop.ts';

const begins = listSettings.parse({
  country: 'DE',
  marketplaceCardId: 'm1',
  assumptions: { purchase: { currency: 'EUR', vat: 'included', vatRate: 0.19 } },
});
const shop = (key: string, over: Partial<ShopShown> = {}): ShopShown => ({
  key,
  name: `Shop ${key}`,
  country: 'DE',
  currency: 'EUR',
  tax: 'included',
  mail: null,
  categories: Array.from({ length: 14 }, (_, i) => ({ key: `c${i}`, name: `Category ${i}`, goods: 100 + i })),
  begins,
  last: null,
  ...over,
});
const market = (id: string, over: object = {}) => ({
  id,
  key: `Market${id}/DE`,
  name: `Market ${id}`,
  country: 'DE',
  currency: 'EUR',
  hasWarehouse: true,
  categories: [],
  ...over,
});
function shown(props: object = {}) {
  const sent: CatalogueSetup[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/lists/shop',
      Component: () => (
        <ShopPage
          shops={[shop('a'), shop('b', { currency: 'PLN', country: 'PL', tax: 'excluded' })]}
          markets={[market('m1'), market('m2', { country: 'GB', currency: 'GBP', hasWarehouse: false })]}
          known={['Marketm1/DE']}
          home="EUR"
          standings={{ DE: { kind: 'registered' } }}
          hasFeed
          wrong={null}
          chosen={null}
          root="/w/shop"
          canEdit
          error={null}
          {...props}
        />
      ),
      action: async ({ request }) => {
        sent.push(catalogueSetup.parse(await request.json()));
        return null;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/lists/shop']} />);
  return sent;
}
const tick = (name: string) =>
  fireEvent.click(screen.getByRole('checkbox', { name: new RegExp(`^${name}`) }));

describe('what of a shop is read', () => {
  it('nothing until a category is chosen; then what was chosen is sent, with its terms', async () => {
    const sent = shown();
    const button = await screen.findByRole('button', { name: 'Read them' });
    expect(button).toHaveProperty('disabled', true);
    expect(screen.getByText('No category is chosen yet.')).toBeDefined();
    tick('Category 3');
    tick('Category 5');
    tick('What is not in a promotion');
    fireEvent.change(screen.getByLabelText('Dearer than, EUR'), { target: { value: '40' } });
    fireEvent.change(screen.getByLabelText('Discount on everything, %'), { target: { value: '15' } });
    fireEvent.change(screen.getByLabelText('Sold on'), { target: { value: 'm2' } });
    expect(screen.getByText(/The market feed does not know this marketplace/)).toBeDefined();
    expect(screen.getByText(/About 208 goods of 2 categories of Shop a/)).toBeDefined();
    fireEvent.click(button);
    await waitFor(() => expect(sent).toHaveLength(1));
    const [{ choice, settings }] = sent as [CatalogueSetup];
    expect(choice).toMatchObject({
      shop: 'a',
      // The feed does not know it, so that no listings are asked for.
      market: null,
      filters: { priceFrom: null, priceTo: 40, promotedOnly: true, inStock: true },
    });
    expect(choice.categories.map((c) => c.key)).toEqual(['c3', 'c5']);
    // A marketplace without a warehouse is sent to by oneself.
    expect(settings).toMatchObject({ country: 'GB', marketplaceCardId: 'm2' });
    expect(settings.assumptions).toMatchObject({ method: 'ownDispatch', purchase: { discount: 0.15 } });
  });

  it('categories are found by their words, all of those at once; each shop keeps its own choice', async () => {
    shown();
    fireEvent.change(await screen.findByLabelText('Find a category'), { target: { value: ' 1' } });
    expect(screen.getAllByRole('checkbox', { name: /^Category/ })).toHaveLength(5);
    fireEvent.click(screen.getByRole('button', { name: 'All' }));
    expect(screen.getByText(/of 5 categories of Shop a/)).toBeDefined();
    fireEvent.change(screen.getByLabelText('Find a category'), { target: { value: 'nothing like it' } });
    expect(screen.getByText('No category has these words in its name.')).toBeDefined();
    fireEvent.click(screen.getByRole('radio', { name: /Shop b/ }));
    expect(screen.getByText('No category is chosen yet.')).toBeDefined();
    expect(screen.getByLabelText('Cheaper than, PLN')).toBeDefined();
    fireEvent.click(screen.getByRole('radio', { name: /Shop a/ }));
    expect(screen.getByText(/of 5 categories of Shop a/)).toBeDefined();
    fireEvent.click(screen.getByRole('button', { name: 'None' }));
    expect(screen.getByText('No category is chosen yet.')).toBeDefined();
  });

  it('the last choice comes back, without categories that are gone, and is known as another edition', async () => {
    const filters = { priceFrom: 5, priceTo: null, reviewsFrom: null, inStock: false, promotedOnly: false };
    const choice = {
      shop: 'a',
      name: 'Shop a',
      country: 'DE',
      currency: 'EUR',
      tax: 'included' as const,
      categories: [{ key: 'c2', name: 'Category 2', goods: 90 }],
      market: 'Marketm1/DE',
      filters,
    };
    const last = { choice, settings: begins };
    shown({ shops: [shop('a', { last })], chosen: 'a' });
    expect(await screen.findByText(/About 102 goods of 1 category.*what has changed/)).toBeDefined();
    expect(
      within(screen.getByRole('region', { name: 'What is left out from the start' })).getByLabelText(
        'Cheaper than, EUR',
      ),
    ).toHaveProperty('value', '5.00');
    tick('Category 4');
    expect(screen.queryByText(/what has changed/)).toBeNull();
  });

  it('says that foreign VAT is a cost, unless one is registered there or pays none', async () => {
    shown({ chosen: 'b' });
    expect(await screen.findByText(/not registered for VAT in Poland/)).toBeDefined();
    fireEvent.change(screen.getByLabelText('Prices in the list'), { target: { value: 'asTyped' } });
    expect(screen.queryByText(/not registered for VAT/)).toBeNull();
    fireEvent.click(screen.getByRole('radio', { name: /Shop a/ }));
    expect(screen.queryByText(/not registered for VAT/)).toBeNull();
  });

  it('without a feed leads to where one is set', async () => {
    shown({ shops: [], hasFeed: false });
    expect((await screen.findByRole('link', { name: 'Set one' })).getAttribute('href')).toContain(
      'settings#feed',
    );
  });

  it('says why there are no shops, and what the server refused', async () => {
    shown({ shops: [], wrong: 'No market feed is set.' });
    expect((await screen.findByRole('alert')).textContent).toContain('No market feed is set.');
    expect(screen.queryByText('The market feed knows no shop.')).toBeNull();
  });

  it('a feed without shops says so; who may not edit starts nothing', async () => {
    shown({ shops: [] });
    expect(await screen.findByText('The market feed knows no shop.')).toBeDefined();
  });
  it('who may not edit starts nothing', async () => {
    shown({ canEdit: false, error: 'It is closed.' });
    expect((await screen.findByRole('alert')).textContent).toContain('It is closed.');
    expect(screen.queryByRole('button', { name: 'Read them' })).toBeNull();
  });
});
