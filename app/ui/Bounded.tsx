/** A bound in a narrow column: its words over the amount, so that neither is cut. */
export function Bounded({ amount, words }: { amount: string; words: string }) {
  if (words === amount) return amount;
  const over = words
    .split(amount)
    .map((w) => w.trim())
    .filter((w) => w !== '')
    .join(', ');
  return (
    <span className="bounded" title={words}>
      <small>{over}</small>
      {amount}
    </span>
  );
}
