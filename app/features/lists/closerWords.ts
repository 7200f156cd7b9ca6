import { addWords } from '../../i18n.ts';
import { closerWords } from '../../locales/en.closer.ts';
import './words.ts';

addWords(closerWords);
