/** When a page is read again: what else stands in its address (an opened pane, a view) asks the server for nothing. */

type Turn = {
  readonly currentUrl: URL;
  readonly nextUrl: URL;
  readonly formMethod?: string;
  readonly defaultShouldRevalidate: boolean;
};

/** A route's `shouldRevalidate`: on the same page only where one of these parts of the address is another. */
export const readAgainFor =
  (...parts: readonly string[]) =>
  ({ currentUrl, nextUrl, formMethod, defaultShouldRevalidate }: Turn): boolean =>
    formMethod === undefined &&
    currentUrl.pathname === nextUrl.pathname &&
    currentUrl.search !== nextUrl.search
      ? parts.some((x) => currentUrl.searchParams.get(x) !== nextUrl.searchParams.get(x))
      : defaultShouldRevalidate;
