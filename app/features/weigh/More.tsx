import { addWords } from '../../i18n.ts';
import { moreWords } from '../../locales/en.more.ts';
import { History } from './History.tsx';
import { Ladder } from './Ladder.tsx';
import type { Props } from './moreParts.ts';
import { Scenarios } from './Scenarios.tsx';
import { Sure } from './Sure.tsx';
import { Variations } from './Variations.tsx';

addWords(moreWords);

export type MoreTab = 'scenarios' | 'ladder' | 'variations' | 'sure' | 'history';

/** The deeper parts of the sheet: scenarios, price ladder, variations, how sure the figures are, what changed. */
export default function More({ tab, ...props }: Props) {
  if (tab === 'scenarios') return <Scenarios {...props} />;
  if (tab === 'ladder') return <Ladder {...props} />;
  if (tab === 'variations') return <Variations {...props} />;
  return tab === 'sure' ? <Sure {...props} /> : <History {...props} />;
}
export type Part = Omit<Props, 'tab'>;
