import { promisify } from 'node:util'
import { brotliCompress, constants } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import { defineConfig, type Plugin } from 'vite'
import vuetify from 'vite-plugin-vuetify'

const QUALITY = 11

/** Puts the program of the record beside itself as Brotli: a phone downloads it, and no server compresses it again. */
const small: Plugin = {
  name: 'small-program',
  apply: 'build',
  async generateBundle(_, bundle) {
    for (const { type, fileName, ...file } of Object.values(bundle)) {
      if (type !== 'asset' || !fileName.endsWith('.wasm') || !('source' in file)) continue
      const params = { [constants.BROTLI_PARAM_QUALITY]: QUALITY, [constants.BROTLI_PARAM_LGWIN]: 24 }
      const source = await promisify(brotliCompress)(file.source, { params })
      this.emitFile({ type: 'asset', fileName: `${fileName}.br`, source })
    }
  },
}

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), small],
  server: { proxy: { '/api': 'http://127.0.0.1:8463' } },
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 600 },
})
