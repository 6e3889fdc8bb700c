import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { gzipSync } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import icons from 'unplugin-icons/vite'
import { defineConfig, type Plugin } from 'vite'

/** Puts a packed twin beside every large text or wasm file, for the server to send. */
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
            writeFileSync(path + '.gz', gzipSync(readFileSync(path), { level: 9 }))
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
  build: { target: 'es2023', chunkSizeWarningLimit: 2000, assetsInlineLimit: 0 },
  worker: { format: 'es' },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8080', ws: true } } },
})
