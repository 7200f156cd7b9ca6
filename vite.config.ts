import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

/** Libraries that every page needs. */
const OF_EVERY_PAGE = [
  ...['react', 'react-dom', 'scheduler', 'react-router', '@emotion', 'stylis', 'i18next', 'react-i18next'],
  ...['system', 'utils', 'styled-engine', 'private-theming'].map((part) => `@mui/${part}`),
];
const EVERY_PAGE = new RegExp(`/node_modules/(${OF_EVERY_PAGE.join('|')})/`);

export default defineConfig({
  plugins: [reactRouter()],
  // MUI's ES modules import each other without extensions, which Node does not resolve; the server build
  // bundles them.
  ssr: { noExternal: [/^@mui\//, /^@emotion\//, 'react-i18next'] },
  server: { watch: { ignored: ['**/.data/**', '**/build/**'] } },
  // The manifest says what the quick check is made of (vite.worker.config.ts).
  build: {
    target: 'es2022',
    assetsInlineLimit: 0,
    manifest: true,
    rolldownOptions: {
      output: {
        // What every page needs comes as one file: it compresses a tenth better than a dozen, and is kept while
        // our own code changes.
        codeSplitting: { groups: [{ name: 'frame', test: EVERY_PAGE }] },
      },
    },
  },
});
