import { addWords } from '../../i18n.ts';
import { scheduleWords } from '../../locales/en.schedules.ts';

addWords(scheduleWords);
