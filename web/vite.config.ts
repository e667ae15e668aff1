import vue from '@vitejs/plugin-vue'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import components from 'unplugin-vue-components/vite'
import { defineConfig } from 'vite'

export default defineConfig({
  base: '/static/web/',
  plugins: [
    vue(),
    components({ dts: false, dirs: [], resolvers: [ElementPlusResolver({ importStyle: 'css' })] }),
  ],
  resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } },
  optimizeDeps: { exclude: ['jassub'], include: ['jassub > throughput'] },
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': 'http://127.0.0.1:8000', '/static/fonts': 'http://127.0.0.1:8000' } },
})
