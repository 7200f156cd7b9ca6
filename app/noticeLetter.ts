/** Notices as a mail tells them: a line for each, and where it is looked at. */
import i18next from 'i18next';
import type { LetterWords } from '../server/jobs/mailNotices.ts';
import { noticeSaid } from './features/frame/noticeSaid.ts';
import { startI18n } from './i18n.ts';
import { formatFor } from './ui/locale.ts';

export const noticeLetter: LetterWords = ({ workspace, base, locale, notices, more }) => {
  startI18n();
  const t = i18next.getFixedT('en');
  const f = formatFor(locale);
  const count = notices.length + more;
  const [only] = notices;
  const lines = notices.map((n) => `${noticeSaid(n, t, f)}\n${base}${n.link}`);
  return {
    subject:
      count === 1 && only !== undefined
        ? inOneLine(t('noticeMail.one', { workspace, said: noticeSaid(only, t, f) }))
        : inOneLine(t('noticeMail.several', { workspace, count })),
    text: [
      ...lines,
      ...(more > 0 ? [t('noticeMail.more', { count: more })] : []),
      t('noticeMail.why', { workspace, link: `${base}/settings#notices` }),
    ].join('\n\n'),
  };
};

/** A subject is one line, and not a long one; names of goods may be neither. */
const inOneLine = (text: string): string =>
  text
    .replace(/\p{Cc}+/gu, ' ')
    .slice(0, 200)
    .trim();
