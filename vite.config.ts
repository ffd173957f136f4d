import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  worker: { format: 'es' },
  optimizeDeps: {
    include: [
      'svelte-tiptap',
      '@tiptap/core',
      '@tiptap/starter-kit',
      '@tiptap/extension-table',
      '@tiptap/extension-text-align'
    ]
  },
  build: { target: 'es2022' }
});
