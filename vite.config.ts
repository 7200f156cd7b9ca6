import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [reactRouter()],
  // MUI's ES modules import each other without extensions, which Node does not resolve; the server build
  // bundles them.
  ssr: { noExternal: [/^@mui\//, /^@emotion\//, 'react-i18next'] },
  server: { watch: { ignored: ['**/.data/**', '**/build/**'] } },
  // The manifest says what the quick check is made of (vite.worker.config.ts).
  build: { target: 'es2022', assetsInlineLimit: 0, manifest: true },
});
