import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { describe, expect, it } from 'vitest';
import { MatchIndex } from '../../core/match/match.ts';
import type { Match } from '../../core/match/match.ts';
import { NOISE } from '../../core/match/tokens.ts';
import { Draw } from '../../core/testing/draw.ts';
import { someListings, somePairs } from '../../core/testing/matchPairs.ts';
import { matchedGoods } from './matchingGoods.ts';

const d = new Draw(Number(process.env.BM_SEED ?? 1));
const { listings, things } = someListings(d, 600);
const goods = somePairs(d, 900, things).map((p) => p.goods);
const known = { listings, noise: NOISE };

/**
 * In a process of its own, as the worker is: only there do threads read our sources. Prints the lots with `few` goods
 * and from there on in threads; after `stop` lots nobody asks any more.
 */
async function lotsOf(few: number, stop = Number.POSITIVE_INFINITY): Promise<Match[][]> {
  const code = `
    import { matchedGoods } from './server/jobs/matchingGoods.ts';
    let given = '';
    for await (const chunk of process.stdin) given += chunk;
    const { goods, known } = JSON.parse(given);
    const lots = [];
    for await (const lot of matchedGoods(goods, known, ${few})) {
      lots.push(lot);
      if (lots.length >= ${stop}) break;
    }
    process.stdout.write(JSON.stringify(lots));`;
  const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', code]);
  child.stdin.end(JSON.stringify({ goods, known }));
  let out = '';
  let wrong = '';
  child.stdout.on('data', (x) => (out += x));
  child.stderr.on('data', (x) => (wrong += x));
  const [exit] = await once(child, 'close');
  expect([exit, exit === 0 ? '' : wrong]).toEqual([0, '']);
  return JSON.parse(out) as Match[][];
}

describe('goods of a long list', () => {
  it('are matched in threads to what they are matched to one after the other, in their order', async () => {
    const index = new MatchIndex(listings, NOISE);
    const alone = JSON.parse(JSON.stringify(goods.map((g) => index.match(g)))) as Match[];
    const here = await lotsOf(1000);
    const inThreads = await lotsOf(1);
    expect(inThreads.map((l) => l.length)).toEqual([400, 400, 100]);
    expect(here.flat()).toEqual(alone);
    expect(inThreads.flat()).toEqual(alone);
    expect(new Set(alone.map((m) => m.confidence)).size).toBeGreaterThan(2);
  });
  it('whoever stops asking ends the work', async () => {
    expect(await lotsOf(1, 1)).toHaveLength(1);
  });
  it('nothing is matched of none', async () => {
    for await (const _ of matchedGoods([], known)) expect.unreachable();
  });
});
