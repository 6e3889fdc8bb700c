import { readdirSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { defineConfig, type Plugin } from 'vite'

const out = fileURLToPath(new URL('./dist/player', import.meta.url))

/** The core is a file beside the player, which whoever exports one takes from the application: it is there once. */
function besideCore(): Plugin {
  const id = '\0core'
  return {
    name: 'beside-core',
    enforce: 'pre',
    resolveId: (source) => (source.endsWith('core.wasm?url') ? id : null),
    load: (loaded) => (loaded === id ? `export default import.meta.url.replace(/[^/]*$/, 'core.wasm')` : null),
  }
}

/** Lists the files of the player, for whoever puts them together. */
function list(): Plugin {
  return {
    name: 'list',
    closeBundle: () => writeFileSync(`${out}/files.json`, JSON.stringify(readdirSync(out).filter((name) => name.endsWith('.js')))),
  }
}

/** The player for other pages: a few scripts with names that stay. */
export default defineConfig({
  plugins: [besideCore(), list()],
  base: './',
  publicDir: false,
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    target: 'es2023',
    outDir: out,
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 2000,
    modulePreload: false,
    rolldownOptions: {
      input: fileURLToPath(new URL('./src/player/index.ts', import.meta.url)),
      output: { entryFileNames: 'player.js', chunkFileNames: '[name].js', assetFileNames: '[name][extname]' },
    },
  },
  worker: {
    format: 'es',
    plugins: () => [besideCore()],
    rolldownOptions: { output: { entryFileNames: 'core.js', assetFileNames: '[name][extname]' } },
  },
})
