/** What invented suppliers write back: figures drawn from the mail's own id; the same mail gets the same answer. */
import { between, draw } from './world/draw.ts';

function hashOf(text: string): number {
  let h = 0;
  for (const c of text) h = (Math.imul(h, 31) + (c.codePointAt(0) ?? 0)) | 0;
  return h >>> 0;
}
const LATE = 0.2;
const INCOMPLETE = 0.3;

/** Milliseconds until a supplier answers: half to one and a half of the usual, one in five six times as long. */
export function waitsFor(seed: number, id: string, usual: number): number {
  const h = hashOf(id);
  return usual * between(draw(seed, h, 1), 0.5, 1.5) * (draw(seed, h, 2) < LATE ? 6 : 1);
}

/** The line that answers a question, which is a key with what belongs to it: `price/200/USD`. */
function lineFor(question: string, u: (n: number) => number, unit: number): string | null {
  const [key = '', first = '', second = ''] = question.split('/');
  const whole = (low: number, high: number, n: number): number => Math.round(between(u(n), low, high));
  switch (key) {
    case 'price': {
      const each = unit * (1 - 0.05 * Math.log10(Math.max(1, Number(first))));
      return `Price for ${first} pieces: ${second} ${each.toFixed(2)} each`;
    }
    case 'minimumOrder':
      return `Minimum order: ${whole(2, 10, 3) * 50} pieces`;
    case 'size':
      return `Size of one, packed: ${whole(12, 40, 4)} x ${whole(8, 30, 5)} x ${whole(4, 20, 6)} cm`;
    case 'weight':
      return `Weight of one, packed: ${between(u(7), 0.1, 2.5).toFixed(2)} kg`;
    case 'carton':
      return `Carton: ${whole(2, 8, 8) * 6} pieces, 52 x 42 x 34 cm, ${between(u(9), 6, 18).toFixed(1)} kg`;
    case 'leadDays':
      return `Lead time: ${whole(14, 45, 10)} days after deposit`;
    case 'incoterm':
      return `Terms: ${u(11) < 0.6 ? 'FOB' : 'EXW'}`;
    case 'deposit':
      return `Deposit: ${whole(2, 5, 12) * 10} %, balance before shipping`;
    case 'branding':
      return `Your mark on the pack: ${between(u(13), 0.05, 0.4).toFixed(2)} more each`;
    case 'samples':
      return `Samples: ${whole(15, 60, 14)}, freight included`;
    case 'certificates':
      return 'Certificates: test report and declaration of conformity can be sent';
    default:
      return null;
  }
}

/** The text of an answer; what was not asked anything is confirmed. */
export function answerTo(seed: number, id: string, asks: readonly string[]): string {
  const h = hashOf(id);
  const u = (n: number): number => draw(seed, h, n);
  if (asks.length === 0)
    return (
      'Thank you for your order. We confirm it as it stands; the goods are ready in ' +
      `${Math.round(between(u(15), 12, 35))} days.\n`
    );
  const unit = between(u(16), 2, 14);
  const isShort = u(17) < INCOMPLETE;
  const lines = asks
    .filter((_, i) => !isShort || draw(seed, h, 100 + i) > 0.35)
    .flatMap((q) => lineFor(q, u, unit) ?? []);
  const end = isShort
    ? 'I will let you know the rest once our workshop has told me.'
    : 'We look forward to your order.';
  return `Thank you for your enquiry.\n\n${lines.join('\n')}\n\n${end}\n`;
}
