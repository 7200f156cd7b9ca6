import { addWords } from '../../i18n.ts';
import { cardWords } from '../../locales/en.cards.ts';

addWords(cardWords);
