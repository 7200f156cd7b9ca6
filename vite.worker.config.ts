/** Builds the worker that makes the quick check work without a network, once the application is built. */
import { readdirSync, readFileSync } from 'node:fs';
import { defineConfig } from 'vite';
import type { Plugin } from 'vite';

type Chunk = {
  file: string;
  css?: string[];
  assets?: string[];
  imports?: string[];
  dynamicImports?: string[];
};

/** What the page of the quick check is made of, by the application's manifest: routes, parts that load later, fonts. */
function partsOfCheck(): string[] {
  const chunks = JSON.parse(readFileSync('build/client/.vite/manifest.json', 'utf8')) as Record<
    string,
    Chunk
  >;
  const starts = ['entry.client', 'app/root', 'routes/workspace.', 'routes/check.'];
  const files = new Set<string>();
  const seen = new Set<string>();
  const take = (key: string, later: boolean): void => {
    const chunk = chunks[key];
    if (chunk === undefined || seen.has(key)) return;
    seen.add(key);
    for (const f of [chunk.file, ...(chunk.css ?? []), ...(chunk.assets ?? [])]) files.add(f);
    for (const k of chunk.imports ?? []) take(k, later);
    // What the check itself loads later is wanted; what the frame does (its command bar, its menus) is not.
    if (later) for (const k of chunk.dynamicImports ?? []) take(k, true);
  };
  for (const key of Object.keys(chunks))
    if (starts.some((s) => key.includes(s))) take(key, key.includes('routes/check.'));
  // Workers and what they load stand in no manifest.
  for (const f of readdirSync('build/client/assets'))
    if (/^(scan\.worker|zxing_reader)/.test(f)) files.add(`assets/${f}`);
  return [...files].filter((f) => !/\.map$/.test(f));
}

const manifest = (): Plugin => ({
  name: 'parts-of-check',
  transform: (code, id) =>
    id.includes('check.worker')
      ? code.replaceAll(
          'self.__WB_MANIFEST',
          JSON.stringify(partsOfCheck().map((f) => ({ url: `/${f}`, revision: null }))),
        )
      : undefined,
});

export default defineConfig({
  plugins: [manifest()],
  publicDir: false,
  define: { 'process.env.NODE_ENV': '"production"' },
  build: {
    target: 'es2022',
    outDir: 'build/client',
    emptyOutDir: false,
    lib: { entry: 'app/check.worker.ts', formats: ['es'], fileName: () => 'check-worker.js' },
  },
});
