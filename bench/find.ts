/** Measures of bringing products in: matching, shops' catalogues, and the quick check at a shelf. */
import type { Page } from '@playwright/test';
import { MatchIndex } from '../core/match/match.ts';
import { NOISE, tokensOf } from '../core/match/tokens.ts';
import { Draw } from '../core/testing/draw.ts';
import { bitmap, picture } from '../core/testing/ean.ts';
import { someListings, somePairs } from '../core/testing/matchPairs.ts';
import { measureShops } from './catalogue.ts';
import type { Measure } from './core.ts';
import { median, scripting } from './sheet.ts';
import { firstLoad, inDemo } from './tools.ts';

const GTIN = '9520000010010';
const SHELF = 'On the shelf, EUR';
const goods = (page: Page) => page.getByLabel('Barcode, listing code or name');

/** Milliseconds from a key in the price until the frame with its verdict has been drawn. */
async function keyToVerdict(page: Page): Promise<number[]> {
  const times: number[] = [];
  for (let i = 0; i < 30; i++) {
    times.push(
      await page.evaluate(
        async ({ label, value }) => {
          const id = [...document.querySelectorAll('label')].find((l) => l.textContent === label)?.htmlFor;
          const field = document.getElementById(id ?? '') as HTMLInputElement;
          const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
          const before = document.querySelector('[data-testid=verdict]')?.textContent;
          const start = performance.now();
          set?.call(field, value);
          field.dispatchEvent(new Event('input', { bubbles: true }));
          while (document.querySelector('[data-testid=verdict]')?.textContent === before)
            await new Promise((done) => requestAnimationFrame(done));
          await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
          return performance.now() - start;
        },
        { label: SHELF, value: `${5 + i}.50` },
      ),
    );
    await page.waitForTimeout(60);
  }
  return times;
}

/** A still picture in which a barcode is read: until its digits stand in the field, the reader loaded already. */
async function pictureRead(page: Page): Promise<number[]> {
  const file = { name: 'shelf.bmp', mimeType: 'image/bmp', buffer: Buffer.from(bitmap(picture([GTIN]))) };
  const times: number[] = [];
  for (let i = 0; i < 8; i++) {
    await goods(page).fill('');
    await page.evaluate(() => {
      const input = document.querySelector('input[type=file]') as HTMLInputElement;
      input.addEventListener(
        'change',
        () => {
          (window as unknown as { start: number }).start = performance.now();
        },
        { once: true, capture: true },
      );
    });
    await page.getByLabel('From a picture').setInputFiles(file);
    times.push(
      await page.evaluate(async (gtin) => {
        while (![...document.querySelectorAll('input')].some((x) => x.value === gtin))
          await new Promise((done) => setTimeout(done, 1));
        return performance.now() - (window as unknown as { start: number }).start;
      }, GTIN),
    );
  }
  return times.slice(1);
}

/** Goods of a source matched to listings: how long a long list takes, and how far what is certain can be trusted. */
function measureMatch(): Measure[] {
  const d = new Draw(1);
  const { listings, things } = someListings(d, 40_000);
  const pairs = somePairs(d, 100_000, things);
  const bare = performance.now();
  const said = new Set(
    pairs.map((p) => tokensOf(`${p.goods.brand} ${p.goods.title}`, new Set(NOISE)).words.join(' ')),
  );
  const readMs = performance.now() - bare;
  const started = performance.now();
  const index = new MatchIndex(listings);
  const matches = pairs.map((p) => ({ right: p.right, m: index.match(p.goods) }));
  const ms = performance.now() - started;
  const certain = matches.filter((x) => x.m.confidence === 'certain');
  const titleAt = (i: number): string => listings[i]?.title ?? '';
  const isRight = ({ right, m }: (typeof matches)[number]): boolean =>
    m.listing === right || (right >= 0 && titleAt(m.listing) === titleAt(right));
  const byEye = matches.filter((x) => x.m.confidence === 'byEye' || x.m.confidence === 'likely').length;
  return [
    {
      name: '100,000 rows matched to 40,000 listings',
      value: ms / 1000,
      unit: 's',
      aim: 'at most 60',
      yardstick: `their titles taken apart alone: ${(readMs / 1000).toFixed(1)} s, ${said.size} different ones`,
      ratio: ms / readMs,
    },
    {
      name: 'Of what matching calls certain, right',
      value: (100 * certain.filter(isRight).length) / certain.length,
      unit: '%',
      aim: 'at least 95',
      yardstick: `${certain.length} of 100,000 certain, ${byEye} left to the eye`,
      ratio: null,
    },
  ];
}

export async function measureFind(origin: string): Promise<Measure[]> {
  return [...measureMatch(), ...(await measureShops()), ...(await measureCheck(origin))];
}

function measureCheck(origin: string): Promise<Measure[]> {
  return inDemo(origin, async (page) => {
    const address = `${origin}${new URL(page.url()).pathname.split('/').slice(0, 3).join('/')}/check`;
    const bytes = await firstLoad(page, address);
    const spent = await scripting(page);
    const before = await spent();
    await page.goto(address);
    await page.waitForFunction(() => document.documentElement.dataset.answers === location.pathname);
    const opened = (await spent()) - before;
    const read = await pictureRead(page);
    await page.getByText(/^Permission:/).waitFor();
    await page.getByLabel(SHELF).fill('4');
    await page.waitForTimeout(500);
    const typed = await keyToVerdict(page);
    return [
      {
        name: 'From the price typed to the verdict drawn, median of 30',
        value: median(typed),
        unit: 'ms',
        aim: 'at most 100',
        yardstick: `the slowest: ${Math.max(...typed).toFixed(0)} ms; a frame is 16.7 ms`,
        ratio: null,
      },
      {
        name: 'Script of the first load of the quick check, Brotli (the reader of barcodes apart)',
        value: bytes / 1000,
        unit: 'kB',
        aim: 'at most 250',
        yardstick: `scripting until it answers: ${opened.toFixed(0)} ms`,
        ratio: null,
      },
      {
        name: 'A barcode read in a still picture of 1280x720, median of 7',
        value: median(read),
        unit: 'ms',
        aim: 'at most 300',
        yardstick: `the slowest: ${Math.max(...read).toFixed(0)} ms`,
        ratio: null,
      },
    ];
  });
}
