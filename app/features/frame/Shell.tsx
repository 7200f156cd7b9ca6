import { Box, Button, MenuItem, Typography, useColorScheme } from '@mui/material';
import FindIcon from '@mui/icons-material/PlaylistAdd';
import FundIcon from '@mui/icons-material/AccountBalanceWalletOutlined';
import OrderIcon from '@mui/icons-material/LocalShippingOutlined';
import RatesIcon from '@mui/icons-material/TableChartOutlined';
import SearchIcon from '@mui/icons-material/Search';
import SellingIcon from '@mui/icons-material/StorefrontOutlined';
import SettingsIcon from '@mui/icons-material/TuneOutlined';
import WeighIcon from '@mui/icons-material/BalanceOutlined';
import { lazy, Suspense, useRef, useState } from 'react';
import type { ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Form, Link, NavLink, useFetcher, useLocation, useNavigation } from 'react-router';
import { useFormat } from '../../ui/locale.ts';
import { Menu } from '../../ui/later.tsx';
import { Notices } from './Notices.tsx';
import { Logo } from '../../ui/Logo.tsx';
import { useWords } from '../../ui/useWords.ts';

export type WorkspaceHead = {
  slug: string;
  name: string;
  role: string;
  person: { name: string; email: string };
  workspaces: { slug: string; name: string }[];
  deleted: boolean;
  homeCurrency: string;
  ratesOf: string | null;
};

const PLACES = [
  ['find', FindIcon],
  ['weigh', WeighIcon],
  ['fund', FundIcon],
  ['order', OrderIcon],
  ['selling', SellingIcon],
  ['rates', RatesIcon],
  ['settings', SettingsIcon],
] as const;

/** Loaded when it is first opened. */
const Palette = lazy(() => import('./Palette.tsx'));

/** The frame: a rail with the places of the work, a bar with workspace, search and person. */
export function Shell({ head, children }: { head: WorkspaceHead; children: ReactNode }) {
  const { t } = useWords();
  const [palette, setPalette] = useState(false);
  const [menu, setMenu] = useState<{ el: HTMLElement; which: 'workspace' | 'person' } | null>(null);
  const busy = useNavigation().state !== 'idle';
  const base = `/w/${head.slug}`;
  /** What is typed while the command bar is still being loaded. */
  const started = useRef({ text: '', enter: false });
  const openPalette = (): void => {
    started.current = { text: '', enter: false };
    setPalette(true);
  };
  useHotkeys(
    'mod+k',
    (e) => {
      e.preventDefault();
      openPalette();
    },
    { enableOnFormTags: true },
  );
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: '76px 1fr' },
        minHeight: '100vh',
        // On paper there is no rail, and the page has the whole width.
        '@media print': { display: 'block' },
      }}>
      <Box
        component="a"
        href="#main"
        sx={{
          position: 'absolute',
          left: -9999,
          '&:focus': { left: 8, top: 8, zIndex: 20, bgcolor: 'background.paper', p: 1 },
        }}>
        {t('nav.skip')}
      </Box>
      <Rail base={base} />
      <Box sx={{ minWidth: 0, pb: { xs: 8, sm: 0 } }}>
        <Box
          component="header"
          sx={{
            height: 46,
            borderBottom: '1px solid',
            borderColor: 'hairline',
            display: 'flex',
            alignItems: 'center',
            gap: 2,
            px: { xs: 1.5, sm: 3 },
          }}>
          <Button
            size="small"
            onClick={(e) => setMenu({ el: e.currentTarget, which: 'workspace' })}
            aria-haspopup="menu"
            sx={{ px: 0.5, maxWidth: 220, overflow: 'hidden', whiteSpace: 'nowrap' }}>
            {head.name} ▾
          </Button>
          <SearchButton onOpen={openPalette} />
          <Box role="status" sx={{ fontSize: '0.8rem', color: 'text.secondary', minWidth: 60 }}>
            {busy ? t('nav.loading') : ''}
          </Box>
          <BarEnd head={head} base={base} onPerson={(el) => setMenu({ el, which: 'person' })} />
        </Box>
        <Menu
          open={menu?.which === 'workspace'}
          anchorEl={menu?.el ?? null}
          onClose={() => setMenu(null)}
          onClick={() => setMenu(null)}>
          {head.workspaces.map((w) => (
            <MenuItem key={w.slug} component="a" href={`/w/${w.slug}/weigh`} selected={w.slug === head.slug}>
              {w.name}
            </MenuItem>
          ))}
          <MenuItem component="a" href="/?new=1">
            {t('account.newWorkspace')}
          </MenuItem>
        </Menu>
        <PersonMenu anchor={menu?.which === 'person' ? menu.el : null} onClose={() => setMenu(null)} />
        <Box
          component="main"
          id="main"
          tabIndex={-1}
          sx={{ px: { xs: 1.75, sm: 3.5 }, py: 2, outline: 'none' }}>
          {children}
        </Box>
      </Box>
      {palette && (
        <Suspense fallback={<PaletteField started={started.current} />}>
          <Palette base={base} started={started.current} onClose={() => setPalette(false)} />
        </Suspense>
      )}
    </Box>
  );
}

function PersonMenu({ anchor, onClose }: { anchor: HTMLElement | null; onClose: () => void }) {
  const { t } = useWords();
  const { mode, setMode } = useColorScheme();
  const fetcher = useFetcher();
  return (
    <Menu open={anchor !== null} anchorEl={anchor} onClose={onClose} onClick={onClose}>
      <MenuItem component="a" href="/account">
        {t('account.title')}
      </MenuItem>
      {(['light', 'dark', 'system'] as const).map((m) => (
        <MenuItem key={m} selected={mode === m} onClick={() => setMode(m)}>
          {t(`mode.${m}`)}
        </MenuItem>
      ))}
      <MenuItem onClick={() => void fetcher.submit({}, { method: 'post', action: '/sign-out' })}>
        {t('account.signOut')}
      </MenuItem>
    </Menu>
  );
}

/** Takes the keys until the command bar has been loaded, so that none is lost. */
function PaletteField({ started }: { started: { text: string; enter: boolean } }) {
  const { t } = useWords();
  return (
    <Box
      component="input"
      autoFocus
      aria-label={t('nav.search')}
      onChange={(e: { target: { value: string } }) => {
        started.text = e.target.value;
      }}
      onKeyDown={(e: { key: string }) => {
        if (e.key === 'Enter') started.enter = true;
      }}
      sx={{
        position: 'fixed',
        zIndex: 20,
        top: 64,
        left: '50%',
        transform: 'translateX(-50%)',
        width: 'min(600px, 90vw)',
        font: 'inherit',
        fontSize: '1.05rem',
        p: 2,
        border: '1px solid',
        borderColor: 'fieldLine',
        borderRadius: 1,
        bgcolor: 'background.paper',
        color: 'text.primary',
      }}
    />
  );
}

/** What stands in place of a deleted workspace: its name and the way back. */
export function DeletedWorkspace({ head }: { head: WorkspaceHead }) {
  const { t } = useWords();
  return (
    <Box component="main" sx={{ maxWidth: 600, mx: 'auto', px: { xs: 2, sm: 3 }, py: 8 }}>
      <Logo label />
      <Typography variant="h1" sx={{ mt: 4 }}>
        {t('deleted.title', { name: head.name })}
      </Typography>
      <Typography sx={{ my: 2 }}>{t('deleted.text')}</Typography>
      <Form method="post" action={`/w/${head.slug}`}>
        <input type="hidden" name="intent" value="restore" />
        {head.role === 'owner' && (
          <Button type="submit" variant="contained">
            {t('deleted.restore')}
          </Button>
        )}{' '}
        <Button href="/?new=1">{t('account.newWorkspace')}</Button>
      </Form>
    </Box>
  );
}

/** Lists and checks at a shelf are parts of Find. */
const isInFind = (path: string): boolean => /^\/(?:lists|checks?)(?:\/|$)/.test(path);

/** The places of the work: beside the page, on a phone below it. */
function Rail({ base }: { base: string }) {
  const { t } = useWords();
  const { pathname } = useLocation();
  return (
    <Box
      component="nav"
      aria-label={t('nav.places')}
      sx={{
        borderRight: { sm: '1px solid' },
        borderTop: { xs: '1px solid', sm: 'none' },
        borderColor: { xs: 'hairline', sm: 'hairline' },
        position: { xs: 'fixed', sm: 'sticky' },
        top: { sm: 0 },
        bottom: { xs: 0, sm: 'auto' },
        left: 0,
        right: { xs: 0, sm: 'auto' },
        height: { sm: '100vh' },
        zIndex: 5,
        bgcolor: 'background.default',
        display: 'flex',
        flexDirection: { xs: 'row', sm: 'column' },
        alignItems: 'center',
        justifyContent: { xs: 'space-around', sm: 'flex-start' },
        gap: { sm: 0.5 },
        pt: { sm: 1.75 },
      }}>
      <Box
        component={Link}
        to={`${base}/weigh`}
        aria-label="Bold Margin"
        sx={{ display: { xs: 'none', sm: 'block' }, mb: 2 }}>
        <Logo />
      </Box>
      {PLACES.map(([place, Icon]) => (
        <Box
          key={place}
          component={NavLink}
          to={`${base}/${place}`}
          prefetch="intent"
          className={place === 'find' && isInFind(pathname.slice(base.length)) ? 'active' : undefined}
          sx={{
            display: 'flex',
            flexDirection: 'column',
            alignItems: 'center',
            gap: 0.25,
            width: { xs: 54, sm: 62 },
            py: 0.9,
            borderRadius: 1.5,
            color: 'text.secondary',
            textDecoration: 'none',
            fontSize: '0.76rem',
            mt: { sm: place === 'rates' ? 'auto' : 0 },
            mb: { sm: place === 'settings' ? 1.5 : 0 },
            '&.active': { bgcolor: 'paperTint', color: 'text.primary', fontWeight: 680 },
          }}>
          <Icon sx={{ fontSize: 21 }} aria-hidden />
          {t(`nav.${place}`)}
        </Box>
      ))}
    </Box>
  );
}

/** Opens the command bar; looks like the field it becomes. */
function SearchButton({ onOpen }: { onOpen: () => void }) {
  const { t } = useWords();
  return (
    <Box
      component="button"
      type="button"
      aria-label={t('nav.search')}
      onClick={onOpen}
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        alignItems: 'center',
        width: { xs: 44, sm: 360 },
        height: 32,
        border: '1px solid',
        borderColor: 'hairline',
        borderRadius: 1.5,
        bgcolor: 'background.paper',
        color: 'text.secondary',
        font: 'inherit',
        fontSize: '0.88rem',
        px: 1.25,
        cursor: 'pointer',
      }}>
      <Box component="span" sx={{ display: { xs: 'none', sm: 'inline' } }}>
        {t('nav.search')}
      </Box>
      <Box
        component="kbd"
        sx={{
          display: { xs: 'none', sm: 'inline' },
          font: 'inherit',
          fontSize: '0.72rem',
          whiteSpace: 'nowrap',
        }}>
        Ctrl K
      </Box>
      <SearchIcon sx={{ display: { xs: 'block', sm: 'none' }, fontSize: 19 }} aria-hidden />
    </Box>
  );
}

/** Home currency, day of the rates, notices, and the person. */
function BarEnd({
  head,
  base,
  onPerson,
}: {
  head: WorkspaceHead;
  base: string;
  onPerson: (el: HTMLElement) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const initials = head.person.name
    .split(/\s+/)
    .map((p) => p[0])
    .join('')
    .slice(0, 2)
    .toUpperCase();
  return (
    <Box
      sx={{
        ml: 'auto',
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        fontSize: '0.84rem',
        color: 'text.secondary',
      }}>
      <Box component="span" sx={{ display: { xs: 'none', md: 'inline' } }}>
        {t('nav.home', { currency: head.homeCurrency })}
      </Box>
      {head.ratesOf !== null && (
        <Box
          component={Link}
          to={`${base}/rates`}
          sx={{
            display: { xs: 'none', md: 'inline' },
            color: 'inherit',
            textDecoration: 'none',
            '&:hover': { textDecoration: 'underline' },
          }}>
          {t('nav.ratesOf', { date: f.day(head.ratesOf) })}
        </Box>
      )}
      <Notices base={base} />
      {head.role === 'viewer' && <span>{t('nav.viewer')}</span>}
      <Button
        size="small"
        onClick={(e) => onPerson(e.currentTarget)}
        aria-label={t('nav.person', { name: head.person.name })}
        aria-haspopup="menu"
        sx={{ minWidth: 0, fontWeight: 700 }}>
        {initials}
      </Button>
    </Box>
  );
}
