import { mkdirSync, writeFileSync } from 'node:fs'
import vue from '@vitejs/plugin-vue'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import components from 'unplugin-vue-components/vite'
import { defineConfig, type Plugin } from 'vite'

const here = (path: string) => new URL(path, import.meta.url).pathname
const bundled = new Set<string>()

/** Writes the folders of the npm packages that are in the bundle, for the list of licences. */
function listPackages(): Plugin {
  return {
    name: 'list-packages',
    apply: 'build',
    buildEnd() {
      for (const id of this.getModuleIds()) {
        const found = id.match(/(node_modules\/.*)?node_modules\/(@[^/]+\/)?[^/]+/)
        if (found) bundled.add(found[0])
      }
    },
    closeBundle() {
      mkdirSync(here('./dist'), { recursive: true }) // workers are bundled before it is there
      writeFileSync(here('./dist/packages.json'), JSON.stringify([...bundled].sort(), null, 1))
    },
  }
}

export default defineConfig({
  base: '/static/web/',
  plugins: [
    vue(),
    components({ dts: false, dirs: [], resolvers: [ElementPlusResolver({ importStyle: 'css' })] }),
    listPackages(),
  ],
  resolve: {
    alias: {
      '@': here('./src'),
      // A polyfill under the GPL that the caption renderer pulls in for old browsers: left out.
      'rvfc-polyfill': here('./src/player/nothing.ts'),
    },
  },
  optimizeDeps: { exclude: ['jassub'], include: ['jassub > throughput'] },
  worker: { format: 'es', plugins: () => [listPackages()] },
  build: { target: 'es2022', chunkSizeWarningLimit: 900, emptyOutDir: true },
  server: { proxy: { '/api': 'http://127.0.0.1:8000', '/static/fonts': 'http://127.0.0.1:8000' } },
})
