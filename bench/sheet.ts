/**
 * Measures of the candidate's sheet in real Chromium: from key press to repainted figures, script loaded,
 * statements.
 */
import { brotliCompressSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import type { Measure } from './core.ts';
import { inDemo } from './tools.ts';

export const median = (list: number[]): number =>
  [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? Number.NaN;

/** Scripting time of the main thread in milliseconds so far, as the browser counts it. */
export async function scripting(page: Page): Promise<() => Promise<number>> {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  return async () => {
    const { metrics } = await session.send('Performance.getMetrics');
    return 1000 * (metrics.find((m) => m.name === 'ScriptDuration')?.value ?? Number.NaN);
  };
}

export async function measureSheet(origin: string): Promise<Measure[]> {
  return inDemo(origin, async (page) => {
    const link = await page
      .getByRole('link', { name: 'Bee house, larch, three chambers' })
      .getAttribute('href');
    const scripts = new Map<string, Promise<number>>();
    page.on('response', (r) => {
      if (r.request().resourceType() === 'script' || r.url().endsWith('.js'))
        scripts.set(
          r.url(),
          r
            .body()
            .then((b) => brotliCompressSync(b).length)
            .catch(() => 0),
        );
    });
    // A fresh context, so that nothing is in the cache.
    await page
      .context()
      .newCDPSession(page)
      .then((s) => s.send('Network.clearBrowserCache'));
    await page.goto(`${origin}${link}`);
    await page.waitForLoadState('networkidle');
    const bytes = (await Promise.all(scripts.values())).reduce((a, b) => a + b, 0);

    const price = page.getByLabel('Price, EUR', { exact: true });
    await price.fill('34.90');
    await page.waitForTimeout(1500);
    const spent = await scripting(page);
    const strokes: number[] = [];
    const settled: number[] = [];
    await price.focus();
    const shown = page.getByTestId('unit-profit');
    let last = await shown.innerText();
    for (let i = 0; i < 60; i++) {
      const before = await spent();
      // The key's event draws bar, lines, figures and lane before it returns; break-evens and what hangs on
      // them follow.
      await page.keyboard.press(i % 2 === 0 ? 'ArrowUp' : 'ArrowDown');
      strokes.push((await spent()) - before);
      const now = await shown.innerText();
      if (now === last) throw new Error('the figures had not been drawn when the key press returned');
      last = now;
      await page.evaluate(
        () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
      );
      settled.push((await spent()) - before);
      // Saving goes out after a pause; it is no part of the stroke.
      if (i % 10 === 9) await page.waitForTimeout(900);
    }
    // The yardstick: a bare page with one input whose key handler writes one number.
    await page.setContent('<input id="x"><output id="y"></output>');
    await page.evaluate(() => {
      const x = document.getElementById('x') as HTMLInputElement;
      x.addEventListener('keydown', () => {
        (document.getElementById('y') as HTMLOutputElement).value = String(Math.random());
      });
    });
    await page.locator('#x').focus();
    const bareSpent = await scripting(page);
    const bare: number[] = [];
    for (let i = 0; i < 60; i++) {
      const before = await bareSpent();
      await page.keyboard.press('ArrowUp');
      bare.push((await bareSpent()) - before);
    }
    const [stroke, yard] = [median(strokes), median(bare)];
    return [
      {
        name: 'Key press to repainted figures, scripting, median of 60 (nine lanes)',
        value: stroke,
        unit: 'ms',
        aim: 'at most 16',
        yardstick: `a bare page with one handler: ${yard.toFixed(2)} ms`,
        ratio: stroke / yard,
      },
      {
        name: 'The same until break-evens, launch and hurdles have followed too',
        value: median(settled),
        unit: 'ms',
        aim: '',
        yardstick: `${(median(settled) / stroke).toFixed(1)} times the figures alone`,
        ratio: null,
      },
      {
        name: 'Script of the first load of the sheet, Brotli',
        value: bytes / 1000,
        unit: 'kB',
        aim: 'at most 290',
        yardstick: `${scripts.size} files`,
        ratio: null,
      },
    ];
  });
}
