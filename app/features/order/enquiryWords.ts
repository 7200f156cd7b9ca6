import { addWords } from '../../i18n.ts';
import { enquiryWords } from '../../locales/en.orders.ts';
import './words.ts';

addWords(enquiryWords);
