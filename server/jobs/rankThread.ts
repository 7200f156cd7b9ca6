/** A thread of its own for ranking, so that the worker goes on beating meanwhile. */
import { rankTitles } from './rankTitles.ts';

export default rankTitles;
