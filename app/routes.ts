import { index, route } from '@react-router/dev/routes';
import type { RouteConfig } from '@react-router/dev/routes';

export default [
  index('routes/home.tsx'),
  route('sign-in', 'routes/signIn.tsx'),
  route('sign-up', 'routes/signUp.tsx'),
  route('sign-out', 'routes/signOut.tsx'),
  route('reset-password', 'routes/resetPassword.tsx'),
  route('account', 'routes/account.tsx'),
  route('invitation/:id', 'routes/invitation.tsx'),
  route('api/auth/*', 'routes/authApi.ts'),
  route('w/:workspace', 'routes/workspace.tsx', [
    index('routes/workspaceHome.tsx'),
    route('find', 'routes/find.tsx'),
    route('weigh', 'routes/weigh.tsx'),
    route('weigh/:candidate', 'routes/sheet.tsx'),
    route('weigh/:candidate/save', 'routes/sheetSave.ts'),
    route('names', 'routes/names.ts'),
    route('fund', 'routes/fund.tsx'),
    route('fund/save', 'routes/fundSave.ts'),
    route('rates', 'routes/rates.tsx'),
    route('settings', 'routes/settings.tsx'),
    route('export', 'routes/exportWorkspace.ts'),
  ]),
  route('*', 'routes/notFound.tsx'),
] satisfies RouteConfig;
