import { addWords } from '../../i18n.ts';
import { orderWords } from '../../locales/en.orders.ts';

addWords(orderWords);
