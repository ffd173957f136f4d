import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: adapter({ precompress: true }),
    // A chair's machine opens many pages a day and seldom a cold one: few files come faster than a hundred small ones.
    output: { bundleStrategy: 'single' },
    alias: {
      $core: 'src/lib/core',
      $server: 'src/lib/server',
      $ui: 'src/lib/ui',
      'superforms-zod4': 'node_modules/sveltekit-superforms/dist/adapters/zod4'
    },
    // The phone's page alone works without a network, and registers its worker by itself.
    serviceWorker: { register: false },
    csp: {
      mode: 'auto',
      directives: {
        'default-src': ['self'],
        'script-src': ['self'],
        // Elements are our own; attributes, which hold places and sizes, can't be named one by one.
        'style-src': ['self'],
        'style-src-elem': ['self'],
        'style-src-attr': ['unsafe-inline'],
        'img-src': ['self', 'data:', 'blob:'],
        'font-src': ['self', 'data:'],
        'worker-src': ['self', 'blob:'],
        'connect-src': ['self'],
        'object-src': ['none'],
        'base-uri': ['none'],
        'form-action': ['self'],
        'frame-ancestors': ['none']
      }
    }
  }
};
