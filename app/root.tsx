import '@fontsource-variable/bricolage-grotesque/index.css';
import '@fontsource-variable/hanken-grotesk/index.css';
import { Box, Button, CssBaseline, Typography } from '@mui/material';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import { ThemeProvider } from '@mui/material/styles';
import type { ReactNode } from 'react';
import { use, useEffect } from 'react';
import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useLocation,
  useRouteError,
  useRouteLoaderData,
} from 'react-router';
import type { Route } from './+types/root.ts';
import { theme } from './theme/theme.ts';
import { LocaleContext, localeOf } from './ui/locale.ts';
import { Logo } from './ui/Logo.tsx';
import { NonceContext } from './ui/nonce.ts';
import { useWords } from './ui/useWords.ts';

export function loader({ request }: Route.LoaderArgs) {
  return { locale: localeOf(request.headers.get('accept-language')) };
}

export const meta: Route.MetaFunction = () => [
  { title: 'Bold Margin' },
  { name: 'description', content: 'What one unit keeps, lane beside lane' },
];
export const links: Route.LinksFunction = () => [
  { rel: 'icon', href: '/mark.svg', type: 'image/svg+xml' },
  { rel: 'manifest', href: '/manifest.webmanifest', crossOrigin: 'use-credentials' },
];

export function Layout({ children }: { children: ReactNode }) {
  const nonce = use(NonceContext);
  const root = useRouteLoaderData<typeof loader>('root');
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <Meta />
        <Links />
      </head>
      <body>
        <InitColorSchemeScript attribute="data" nonce={nonce} />
        <ThemeProvider theme={theme} defaultMode="system">
          <CssBaseline />
          <LocaleContext value={root?.locale ?? 'en-GB'}>{children}</LocaleContext>
        </ThemeProvider>
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export default function Root() {
  const { pathname } = useLocation();
  // Says which page answers to keys and clicks, and is not only shown or on its way.
  useEffect(() => {
    document.documentElement.dataset.answers = pathname;
  }, [pathname]);
  return <Outlet />;
}

/** What went wrong, in words, and what to do; never a stack trace. */
export function ErrorBoundary() {
  const { t } = useWords();
  const error = useRouteError();
  const status = isRouteErrorResponse(error) ? error.status : 500;
  const kind =
    status === 404 ? 'notFound' : status === 403 ? 'notAllowed' : status === 503 ? 'databaseAway' : 'broken';
  return (
    <Box component="main" sx={{ maxWidth: 600, mx: 'auto', px: { xs: 2, sm: 3 }, py: 10 }}>
      <Logo label />
      <Typography variant="h1" sx={{ mt: 5, mb: 1 }}>
        {t(`errors.${kind}.title`)}
      </Typography>
      <Typography sx={{ mb: 3 }}>{t(`errors.${kind}.text`)}</Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        {(kind === 'broken' || kind === 'databaseAway') && (
          <Button variant="contained" onClick={() => window.location.reload()}>
            {t('errors.again')}
          </Button>
        )}
        <Button variant="outlined" href="/">
          {t('errors.home')}
        </Button>
      </Box>
    </Box>
  );
}
