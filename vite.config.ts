import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { BootstrapVueNextResolver } from 'bootstrap-vue-next/resolvers';
import icons from 'unplugin-icons/vite';
import components from 'unplugin-vue-components/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  root: fileURLToPath(new URL('./web', import.meta.url)),
  plugins: [
    vue(),
    components({ dirs: [], dts: false, resolvers: [BootstrapVueNextResolver()] }),
    icons({ compiler: 'vue3', scale: 1 }),
  ],
  build: {
    outDir: fileURLToPath(new URL('./dist/page', import.meta.url)),
    emptyOutDir: true,
    target: 'es2022',
    // The content security policy allows no data: fonts or scripts.
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      checks: { pluginTimings: false },
      onLog(level, log, report) {
        // HarfBuzz asks for a module of Node only where there is Node.
        if (!log.message.includes('harfbuzzjs')) report(level, log);
      },
    },
  },
  // It finds its WebAssembly beside itself.
  optimizeDeps: { exclude: ['harfbuzzjs'] },
  server: { port: 5173, strictPort: true, proxy: { '/api': 'http://127.0.0.1:4310' } },
});
