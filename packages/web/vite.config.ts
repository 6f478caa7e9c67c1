import babel from '@rolldown/plugin-babel';
import react, { reactCompilerPreset } from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const isolation = { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' };

export default defineConfig({
  // a pointer moves many times a second: what did not change is not rendered again
  plugins: [react(), babel({ include: /\/packages\/web\/src\/.*\.tsx?$/, presets: [reactCompilerPreset()] })],
  build: { target: 'es2022', chunkSizeWarningLimit: 1200 },
  worker: { format: 'es' },
  server: { headers: isolation, proxy: { '/api': 'http://127.0.0.1:5280' } },
});
