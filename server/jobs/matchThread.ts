/** A thread that matches goods to listings: it knows the listings once, and is asked about some goods after another. */
import { workerData } from 'piscina';
import { MatchIndex } from '../../core/match/match.ts';
import type { Goods, Match } from '../../core/match/match.ts';
import type { MatchedIn } from './matchingGoods.ts';

const { listings, noise } = workerData as MatchedIn;
const index = new MatchIndex(listings, noise);

export default (goods: readonly Goods[]): Match[] => goods.map((g) => index.match(g));
