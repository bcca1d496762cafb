import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';
import vuetify from 'vite-plugin-vuetify';

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true })],
  build: {
    target: 'es2022',
    // Fonts as files: the content policy allows no data: fonts, and a cached file is not sent twice.
    assetsInlineLimit: 0,
    reportCompressedSize: false,
  },
  server: { proxy: { '/api': 'http://localhost:4300' } },
});
