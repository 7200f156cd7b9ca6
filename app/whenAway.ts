/** What stands in for an answer where there is no network, so that a page does not make way for an error. */

type Asks<T> = { readonly serverLoader: () => Promise<T> };

/** A browser's rejection of a request that never came to a server. */
const isAway = (e: unknown): boolean => e instanceof TypeError;

/** A route's `clientLoader`: the answer of the server, or without a network the last one, at first `first`. */
export function lastAnswer<T>(first: T): (args: Asks<unknown>) => Promise<T> {
  let last = first;
  return async ({ serverLoader }) => {
    try {
      last = (await serverLoader()) as T;
    } catch (e) {
      if (!isAway(e)) throw e;
    }
    return last;
  };
}

/** A route's `clientAction`: what could not be sent is told as not done. */
export async function unlessAway<T>({
  serverAction,
}: {
  readonly serverAction: () => Promise<T>;
}): Promise<T | { ok: false }> {
  try {
    return await serverAction();
  } catch (e) {
    if (!isAway(e)) throw e;
    return { ok: false };
  }
}
