/** What is lost or lacking is hatched: a pattern for drawings, filled in by `url(#id)`. */
export function Hatch({ id }: { id: string }) {
  return (
    <pattern id={id} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="2.4" height="6" fill="var(--mui-palette-loss-main)" />
    </pattern>
  );
}
