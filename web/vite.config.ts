import { promisify } from 'node:util';
import { brotliCompress, gzip, gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { type Plugin, defineConfig } from 'vite';

// Files are served precompressed; the first script must stay under its budget (docs/architecture.md).
const FIRST_SCRIPT_BUDGET = 250_000;

const compress = (): Plugin => ({
  name: 'compress',
  apply: 'build',
  enforce: 'post',
  generateBundle: {
    order: 'post', // after the placeholders of lazy imports are filled in
    async handler(_, bundle) {
      const zippedSize = (fileName: string, seen = new Set<string>()): number => {
        const file = bundle[fileName];
        if (!file || file.type !== 'chunk' || seen.has(fileName)) return 0;
        seen.add(fileName);
        return file.imports.reduce(
          (sum, next) => sum + zippedSize(next, seen),
          gzipSync(file.code, { level: 9 }).length,
        );
      };
      for (const [fileName, file] of Object.entries(bundle)) {
        if (!/\.(js|css|html|svg)$/.test(fileName)) continue;
        const source = Buffer.from(file.type === 'chunk' ? file.code : file.source);
        const zipped = await promisify(gzip)(source, { level: 9 });
        const first = file.type === 'chunk' && file.isEntry ? zippedSize(fileName) : 0;
        if (first > FIRST_SCRIPT_BUDGET)
          this.error(`the first script is ${first} bytes gzipped; the budget is ${FIRST_SCRIPT_BUDGET}`);
        this.emitFile({ type: 'asset', fileName: `${fileName}.gz`, source: zipped });
        this.emitFile({
          type: 'asset',
          fileName: `${fileName}.br`,
          source: await promisify(brotliCompress)(source),
        });
      }
    },
  },
});

export default defineConfig({
  plugins: [react(), compress()],
  build: { target: 'es2023', chunkSizeWarningLimit: 1000, modulePreload: { polyfill: false } },
  server: { port: 4681, proxy: { '/api': 'http://127.0.0.1:4680' } },
});
