import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: {
    rollupOptions: { input: ['index.html', 'parts.html', 'core.html', 'german.html', 'router.html', 'stock.html'] },
  },
});
