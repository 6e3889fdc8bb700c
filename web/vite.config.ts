import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import icons from 'unplugin-icons/vite'
import { defineConfig, type Plugin } from 'vite'

/** Puts packed twins beside every large text or wasm file, for the server to send: brotli, and gzip for browsers on a plain network, which take nothing else. */
function pack(): Plugin {
  return {
    name: 'pack',
    apply: 'build',
    closeBundle() {
      const walk = (folder: string): void => {
        for (const name of readdirSync(folder)) {
          const path = join(folder, name)
          if (statSync(path).isDirectory()) walk(path)
          else if (/\.(js|css|wasm|html|svg)$/.test(name)) {
            const data = readFileSync(path)
            writeFileSync(path + '.gz', gzipSync(data, { level: 9 }))
            writeFileSync(
              path + '.br',
              brotliCompressSync(data, {
                params: {
                  [constants.BROTLI_PARAM_QUALITY]: 6,
                  [constants.BROTLI_PARAM_LGWIN]: 24,
                  [constants.BROTLI_PARAM_SIZE_HINT]: data.length,
                },
              }),
            )
          }
        }
      }
      walk(fileURLToPath(new URL('./dist', import.meta.url)))
    },
  }
}

export default defineConfig({
  plugins: [vue(), icons({ compiler: 'vue3' }), pack()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { target: 'es2023', chunkSizeWarningLimit: 2000, assetsInlineLimit: 0, rolldownOptions: { input: ['index.html', 'draw.html'] } },
  worker: { format: 'es' },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8080', ws: true } } },
})
