import Box from '@mui/material/Box';
import { styled } from '@mui/material/styles';
import visuallyHidden from '@mui/utils/visuallyHidden';
import { Suspense } from 'react';
import { NavLink, Outlet, useLocation } from 'react-router';
import { useServerEvents } from './useServerEvents.ts';
import { AwayBanner } from './AwayBanner.tsx';
import { ScreenBoundary } from './ScreenBoundary.tsx';
import { AppearanceMenu } from './AppearanceMenu.tsx';
import { WorkMenu } from './WorkMenu.tsx';
import { Jump } from './Jump.tsx';
import { screens } from './screens.ts';
import { DatabaseMenu } from '../features/databases/DatabaseMenu.tsx';
import { TabStrip } from '../features/bench/tabs/TabStrip.tsx';
import { SavedMenu } from '../features/bench/SavedMenu.tsx';

const Word = styled(NavLink)(({ theme }) => ({
  color: theme.roles.softInk,
  textDecoration: 'none',
  fontWeight: 550,
  fontSize: 14,
  padding: '0 13px',
  display: 'flex',
  alignItems: 'center',
  borderBottom: '3px solid transparent',
  borderTop: '3px solid transparent',
  '&:hover': { color: theme.roles.ink },
  '&.active': { color: theme.roles.ink, borderBottomColor: theme.roles.flow },
}));

/** The one band over all screens, with the screens as words. */
export function Frame() {
  const { pathname } = useLocation();
  const screen = screens.find(([path]) => pathname.startsWith(path))?.[1] ?? 'The page';
  useServerEvents();
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <Box
        component="header"
        sx={{
          height: 50,
          flex: 'none',
          display: 'flex',
          alignItems: 'stretch',
          px: 2.25,
          bgcolor: 'background.paper',
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, pr: 1.5 }}>
          <img src="/sieve.svg" alt="" width={24} height={24} />
          <Box component="span" sx={{ fontWeight: 700, fontSize: 15.5, letterSpacing: '-0.01em' }}>
            Zesty Sieve
          </Box>
          <DatabaseMenu />
        </Box>
        <Box component="nav" aria-label="Screens" sx={{ display: 'flex' }}>
          {screens.map(([path, label]) => (
            <Word key={path} to={path}>
              {label}
            </Word>
          ))}
        </Box>
        <Box sx={{ flex: 1, minWidth: 0, display: 'flex', px: 2 }}>{pathname.startsWith('/bench') && <TabStrip />}</Box>
        {pathname.startsWith('/bench') && <SavedMenu />}
        <WorkMenu />
        <AppearanceMenu />
        <Jump />
      </Box>
      <AwayBanner />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        <Box component="h1" sx={visuallyHidden}>
          {screen}
        </Box>
        <ScreenBoundary screen={screen}>
          <Suspense>
            <Outlet />
          </Suspense>
        </ScreenBoundary>
      </Box>
    </Box>
  );
}
