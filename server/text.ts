/** The one place that says which texts can be kept, and refuses or mends those that cannot. */

/** NUL, which the database does not take. */
const NUL = '\0';

/** Whether a text can be kept as it is: no NUL, and no half of a surrogate pair. */
export function isKeepable(text: string): boolean {
  return !text.includes(NUL) && text.isWellFormed();
}

/**
 * The text without NULs, halves of surrogate pairs replaced: for texts out of files, where a stray character
 * is no reason to refuse.
 */
export function keepable(text: string): string {
  return isKeepable(text) ? text : text.replaceAll(NUL, '').toWellFormed();
}

/** Whether every text in a value of plain JSON, its keys among them, can be kept. */
function allKeepable(value: unknown): boolean {
  if (typeof value === 'string') return isKeepable(value);
  if (Array.isArray(value)) return value.every(allKeepable);
  if (typeof value === 'object' && value !== null)
    return Object.entries(value).every(([k, v]) => isKeepable(k) && allKeepable(v));
  return true;
}

/** What in JSON may stand for a character that cannot be kept; a document without such needs no second look. */
const SUSPECT = /\\u(?:0000|[dD][89a-fA-F])/;

/**
 * Plain JSON out of a text that others wrote, its texts as they can be kept.
 * @throws SyntaxError where it is no JSON
 */
export function keepableJson(text: string): unknown {
  if (!SUSPECT.test(text)) return JSON.parse(text);
  return JSON.parse(text, (_, value: unknown) => (typeof value === 'string' ? keepable(value) : value));
}

/**
 * Whether the texts of a request's body can be kept; what is no text, or not readable as what it says it is,
 * is for others to refuse.
 */
export async function bodyIsKeepable(body: Buffer, contentType: string): Promise<boolean> {
  if (body.length === 0) return true;
  if (contentType.includes('json')) {
    const text = body.toString('utf8');
    if (!SUSPECT.test(text)) return true;
    try {
      return allKeepable(JSON.parse(text));
    } catch {
      return true;
    }
  }
  if (contentType.includes('urlencoded')) return !/%00|\0/.test(body.toString('latin1'));
  if (!contentType.includes('multipart/form-data')) return !body.includes(0);
  const form = await new Response(new Uint8Array(body), { headers: { 'content-type': contentType } })
    .formData()
    .catch(() => null);
  return (
    form === null || [...form].every(([k, v]) => isKeepable(k) && (typeof v !== 'string' || isKeepable(v)))
  );
}

/** Whether an address can be read: its escapes are UTF-8, and spell nothing that cannot be kept. */
export function addressIsKeepable(address: string): boolean {
  try {
    return isKeepable(decodeURIComponent(address.replaceAll('+', ' ')));
  } catch {
    return false;
  }
}
