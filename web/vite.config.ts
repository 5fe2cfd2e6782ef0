import { fileURLToPath } from 'node:url';
import babel from '@rolldown/plugin-babel';
import react, { reactCompilerPreset } from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression, defineAlgorithm } from 'vite-plugin-compression2';
import { VitePWA } from 'vite-plugin-pwa';

const page = (name: string) => fileURLToPath(new URL(name, import.meta.url));

export default defineConfig({
  resolve: { alias: [{ find: /^zod$/, replacement: page('src/strict-zod.ts') }] },
  plugins: [
    react(),
    // What a component showed is kept until something it reads has changed. What a function reads is
    // not taken for read before it is called: what it knows to be there may not be there yet.
    babel({
      // Where components and hooks are.
      include: /\/web\/src\/.*\.tsx?$/,
      presets: [reactCompilerPreset({ environment: { enableTreatFunctionDepsAsConditional: true } })],
    }),
    // Installed, and open without the server: everything the program is made of is kept by the browser.
    VitePWA({
      // A new version waits until it is asked for.
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Skip Back',
        short_name: 'Skip Back',
        description:
          'Stylised time effects for music video editors, generated from rules that stay editable.',
        display: 'standalone',
        start_url: '/',
        background_color: '#121212',
        theme_color: '#121212',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2,wasm,webm}'],
        globIgnores: ['bench.html', 'headless.html', 'assets/{bench,headless}-*'],
        maximumFileSizeToCacheInBytes: 8 << 20,
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/(demo|convert|bench|headless)/],
      },
    }),
    // Beside each text its packed form, which the server hands to browsers that take it.
    compression({
      include: /\.(js|css|html|svg|wasm|webmanifest)$/,
      algorithms: [defineAlgorithm('gzip', { level: 9 })],
    }),
  ],
  worker: { format: 'es' },
  build: {
    target: 'es2023',
    chunkSizeWarningLimit: 1500,
    assetsInlineLimit: 0,
    rolldownOptions: { input: [page('index.html'), page('bench.html'), page('headless.html')] },
  },
  server: {
    headers: {
      'Cross-Origin-Opener-Policy': 'same-origin',
      'Cross-Origin-Embedder-Policy': 'require-corp',
    },
  },
});
