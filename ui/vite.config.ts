import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    // The page opens without its server after a first visit; with it, the newest page is asked for first.
    VitePWA({
      registerType: 'autoUpdate',
      injectRegister: false,
      manifestFilename: 'manifest.json',
      manifest: {
        name: 'Umberfrost',
        short_name: 'Umberfrost',
        description: 'Plans and logs finish schedules',
        start_url: '/rack',
        display: 'standalone',
        background_color: '#e4ecf0',
        theme_color: '#35231b',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: null,
        runtimeCaching: [
          {
            urlPattern: ({ request, url }) => request.mode === 'navigate' && !url.pathname.startsWith('/api/'),
            handler: 'NetworkFirst',
            options: { cacheName: 'page', networkTimeoutSeconds: 4, precacheFallback: { fallbackURL: '/index.html' } },
          },
        ],
      },
    }),
  ],
  server: { proxy: { '/api': 'http://127.0.0.1:8177' } },
})
