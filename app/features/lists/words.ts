import { addWords } from '../../i18n.ts';
import { listWords } from '../../locales/en.lists.ts';

addWords(listWords);
