import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { StrictMode, startTransition } from 'react';
import { hydrateRoot } from 'react-dom/client';
import { HydratedRouter } from 'react-router/dom';
import { startI18n } from './i18n.ts';

startI18n();
// Sheets made in the browser need the nonce of the page too; scripts may read it, styles may not leak it.
const nonce = document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce;
const cache = createCache({ key: 'bm', ...(nonce === undefined ? {} : { nonce }) });
startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <CacheProvider value={cache}>
        <HydratedRouter />
      </CacheProvider>
    </StrictMode>,
  );
});
