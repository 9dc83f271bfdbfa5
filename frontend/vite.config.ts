import { svelte, vitePreprocess } from '@sveltejs/vite-plugin-svelte';
import { optimizeImports } from 'carbon-preprocess-svelte';
import { defineConfig, type Plugin } from 'vite';

/** Carbon's style sheet names its fonts at a remote address; ours ship with the application. */
function withoutRemoteFonts(): Plugin {
  return {
    name: 'without-remote-fonts',
    enforce: 'pre',
    transform(code, id) {
      if (!id.includes('carbon-components-svelte/css/')) return undefined;
      return { code: code.replace(/@font-face\s*\{[^}]*\}/g, ''), map: null };
    },
  };
}

export default defineConfig({
  plugins: [withoutRemoteFonts(), svelte({ preprocess: [vitePreprocess(), optimizeImports()] })],
  build: { target: 'es2022', chunkSizeWarningLimit: 1500 },
  server: {
    proxy: { '/api': { target: 'http://127.0.0.1:8480', ws: true } },
  },
});
