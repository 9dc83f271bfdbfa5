import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { svelte, vitePreprocess } from '@sveltejs/vite-plugin-svelte';
import { optimizeImports } from 'carbon-preprocess-svelte';
import { marked } from 'marked';
import { PurgeCSS } from 'purgecss';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';

/**
 * Carbon's style sheet names its fonts at a remote address, while ours ship with the application;
 * and it has five themes, of which we have one.
 */
function withoutRemoteFontsAndThemes(): Plugin {
  return {
    name: 'without-remote-fonts-and-themes',
    enforce: 'pre',
    transform(code, id) {
      if (!id.includes('carbon-components-svelte/css/')) return undefined;
      const ours = code
        .replace(/@font-face\s*\{[^}]*\}/g, '')
        .replace(/:root\[theme=["']?g\d+["']?\]\s*\{[^}]*\}/g, '');
      return { code: ours, map: null };
    },
  };
}

/**
 * Of Carbon's style sheet, only what the built scripts name: every class that stands in them,
 * and every class that begins as they put one together (`bx--btn--${kind}`). Our own rules stay.
 */
function withoutUnusedStyles(): Plugin {
  return {
    name: 'without-unused-styles',
    apply: 'build',
    enforce: 'post',
    async generateBundle(_, bundle) {
      const scripts = Object.values(bundle).flatMap((one) => (one.type === 'chunk' ? [one.code] : []));
      const named = scripts.join('\n').match(/\bbx--[\w-]*/g) ?? [];
      const begun = named.filter((name) => name.endsWith('-') && name !== 'bx--');
      for (const sheet of Object.values(bundle)) {
        if (sheet.type !== 'asset' || !sheet.fileName.endsWith('.css')) continue;
        const [purged] = await new PurgeCSS().purge({
          content: [{ raw: named.join(' '), extension: 'txt' }],
          css: [{ raw: String(sheet.source) }],
          defaultExtractor: (text) => text.split(' '),
          safelist: [/^(?!bx--|flatpickr)/, ...begun.map((start) => new RegExp(`^${start}`))],
          keyframes: true,
        });
        if (!purged) continue;
        sheet.source = purged.css;
        // Kept for ever by its name, it needs another one when what is used changes.
        const mark = createHash('sha256').update(purged.css).digest('hex').slice(0, 8);
        const name = sheet.fileName.replace(/-[^-/]{8}\.css$/, `-${mark}.css`);
        for (const page of Object.values(bundle)) {
          if (page.type !== 'asset' || !page.fileName.endsWith('.html')) continue;
          page.source = String(page.source).replaceAll(sheet.fileName, name);
        }
        sheet.fileName = name;
      }
    },
  };
}

const JOBS = new URL('../docs/jobs/', import.meta.url);
const PICTURES = new URL('../docs/screenshots/', import.meta.url);

/** The pages of the documentation that are about single jobs, to be read beside the page. */
function withJobs(): Plugin {
  return {
    name: 'with-jobs',
    apply: 'build',
    async generateBundle() {
      // A copy of the page alone has none.
      if (!existsSync(JOBS)) return;
      const pictures = new Set<string>();
      const names = readdirSync(JOBS).filter((one) => one.endsWith('.md'));
      const titles = names.map((name) => {
        const text = readFileSync(new URL(name, JOBS), 'utf8');
        return { name: name.replace(/\.md$/, ''), title: text.split('\n')[0]!.replace(/^# /, ''), text };
      });
      const list = titles.map(({ name, title }) => `<li><a href="${name}.html">${title}</a></li>`).join('');
      for (const { name, title, text } of titles) {
        const body = (await marked(text)).replace(/\.\.\/screenshots\/([\w-]+\.png)/g, (_, picture: string) => {
          pictures.add(picture);
          return picture;
        });
        const source =
          `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${title} · Ulvent</title>` +
          '<meta name="viewport" content="width=device-width"><link rel="stylesheet" href="help.css"></head>' +
          `<body><main>${body}</main><nav aria-label="Other jobs"><h2>Other jobs</h2><ul>${list}</ul></nav></body></html>`;
        this.emitFile({ type: 'asset', fileName: `help/${name}.html`, source });
      }
      for (const picture of pictures) {
        const source = readFileSync(new URL(picture, PICTURES));
        this.emitFile({ type: 'asset', fileName: `help/${picture}`, source });
      }
      const source = readFileSync(new URL('./help.css', import.meta.url));
      this.emitFile({ type: 'asset', fileName: 'help/help.css', source });
    },
  };
}

export default defineConfig({
  plugins: [
    withJobs(),
    withoutRemoteFontsAndThemes(),
    svelte({ preprocess: [vitePreprocess(), optimizeImports()] }),
    withoutUnusedStyles(),
  ],
  build: {
    outDir: '../ulvent/web/page',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
  },
  // In tests Svelte's parts are mounted as in a browser.
  resolve: { conditions: process.env.VITEST ? ['browser'] : undefined },
  // One world for all files of tests: each cleans up after itself, and none loads it all anew.
  test: { environment: 'happy-dom', include: ['src/**/*.test.ts'], pool: 'threads', isolate: false },
  server: {
    proxy: { '/api': { target: 'http://127.0.0.1:8480', ws: true } },
  },
});
