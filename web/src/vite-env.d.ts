/// <reference types="vite-plugin-pwa/client" />
declare module '@fontsource-variable/instrument-sans';
declare module '@fontsource/ibm-plex-mono/*.css';
