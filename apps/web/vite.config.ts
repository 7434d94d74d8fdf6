import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  // The package's other entry has no default export, which the core's import has under Node.
  resolve: { alias: { wavefile: 'wavefile/dist/wavefile.js' } },
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 1600 },
});
