/**
 * Documents of earlier versions. Each format names its steps: the first turns version 1 into 2, the next 2 into
 * 3. A document is brought up before it is checked, so that schemas know today's version alone. Kept samples of
 * every version (`testing/samples`) are read by the tests for ever.
 *
 * A field that is added with a default needs no step: what lacks it means what it meant before.
 */
type Step = (document: Readonly<Record<string, unknown>>) => Record<string, unknown>;
type Steps = Readonly<Record<string, readonly Step[]>>;

const STEPS = {
  'bold-margin/lane': [],
  'bold-margin/launch': [],
  'bold-margin/rate-card': [],
  'bold-margin/list-map': [],
  'bold-margin/screen': [],
  'bold-margin/card-pack': [],
  'bold-margin/evidence': [],
} as const satisfies Steps;
export const FORMATS = Object.keys(STEPS) as (keyof typeof STEPS)[];

/** Version of a format that is written today. */
export const versionOf = (format: string, steps: Steps = STEPS): number => (steps[format]?.length ?? 0) + 1;

/**
 * A document as its format is written today. What is no document of a known format, or of a version that never
 * was or is newer than this program, comes back as it is: the schema says what is wrong with it.
 */
export function broughtUp(raw: unknown, steps: Steps = STEPS): unknown {
  if (typeof raw !== 'object' || raw === null) return raw;
  let document = raw as Record<string, unknown>;
  const { format, version } = document;
  const own = typeof format === 'string' && Object.hasOwn(steps, format) ? steps[format] : undefined;
  if (own === undefined || typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return raw;
  for (let v = version; v <= own.length; v++) {
    document = { ...(own[v - 1] as Step)(document), format, version: v + 1 };
  }
  return document;
}
