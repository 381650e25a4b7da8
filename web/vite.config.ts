import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify from 'vite-plugin-vuetify'

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true })],
  server: { proxy: { '/api': 'http://127.0.0.1:8463' } },
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 600 },
})
