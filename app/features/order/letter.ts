/** The letter of an enquiry, in the supplier's language. */
import type { Enquiry } from '../../../core/enquiries/schema.ts';
import { fillIn } from '../../../words/index.ts';
import { letters } from '../../locales/enquiryLetters.ts';
import { formatFor } from '../../ui/locale.ts';

/** Subject and text of what is asked; numbers stand as that language writes them. */
export function letterOf(e: Enquiry, goods: string, by: string): { subject: string; text: string } {
  const letter = letters[e.language];
  const f = formatFor(e.language === 'en' ? 'en-GB' : e.language);
  const quantities = e.quantities.map((q) => f.number(q, 0)).join(' / ');
  const asked = e.questions.map((q, i) => {
    const text =
      q === 'price' && quantities !== '' ? fillIn(letter.priceAt, { quantities }) : letter.questions[q];
    return `${i + 1}. ${text}`;
  });
  const target =
    e.tellTarget && e.target !== null
      ? [fillIn(letter.target, { price: f.money(e.target, e.currency) })]
      : [];
  const paragraphs = [
    fillIn(letter.greeting, { supplier: e.supplier }),
    fillIn(letter.opening, { goods }),
    asked.join('\n'),
    ...target,
    fillIn(letter.closing, { by }),
  ];
  return { subject: fillIn(letter.subject, { goods }).slice(0, 200), text: paragraphs.join('\n\n') };
}
