import { addWords } from '../../i18n.ts';
import { compareWords } from '../../locales/en.compare.ts';

addWords(compareWords);
