import { svelte } from '@sveltejs/vite-plugin-svelte';
import react from '@vitejs/plugin-react';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

const pages = ['index', 'parts', 'core', 'german', 'router', 'stock', 'voice', 'vue', 'svelte'];

export default defineConfig({
  plugins: [react(), vue(), svelte()],
  build: { rollupOptions: { input: pages.map((name) => `${name}.html`) } },
});
