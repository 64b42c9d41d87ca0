import { fileURLToPath, URL } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '@': fileURLToPath(new URL('src', import.meta.url)) } },
  build: {
    chunkSizeWarningLimit: 900,
    cssCodeSplit: false,
    // Few files: each that a place needs costs a millisecond when it opens, however small it is and wherever it was kept.
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'library', test: /node_modules\/(?!zxing-wasm)/, priority: 2 },
            { name: 'shared', test: /src\/(shared|api)\//, priority: 1 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
})
