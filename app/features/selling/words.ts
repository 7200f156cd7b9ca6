import { addWords } from '../../i18n.ts';
import { sellingWords } from '../../locales/en.selling.ts';

addWords(sellingWords);
