import { addWords } from '../../i18n.ts';
import { fundWords } from '../../locales/en.fund.ts';

addWords(fundWords);
