import { addWords } from '../../i18n.ts';
import { listTerms } from '../../locales/en.listTerms.ts';
import { listWords } from '../../locales/en.lists.ts';
import { shopWords } from '../../locales/en.shops.ts';

addWords({ ...listTerms, ...listWords, ...shopWords });
