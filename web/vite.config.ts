import vue from "@vitejs/plugin-vue";
import Components from "unplugin-vue-components/vite";
import { ElementPlusResolver } from "unplugin-vue-components/resolvers";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [
    vue(),
    Components({
      dirs: [],
      dts: "src/components.d.ts",
      resolvers: [ElementPlusResolver({ importStyle: "css" })],
    }),
    // The pages open without a network; numbers and trials are kept by the application itself,
    // which says how old they are, never by the worker.
    VitePWA({
      registerType: "prompt",
      injectRegister: false,
      includeAssets: ["theme.js", "icon.svg", "icon-192.png", "icon-512.png"],
      manifest: {
        name: "Orthocris",
        short_name: "Orthocris",
        description: "Side-by-side trials of home remedies on your own plants.",
        start_url: "/",
        display: "standalone",
        background_color: "#e3e8ea",
        theme_color: "#40205f",
        icons: [
          { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "any maskable" },
        ],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,woff2}"],
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//],
        clientsClaim: true,
        cleanupOutdatedCaches: true,
      },
    }),
  ],
  build: { target: "es2022", chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:8747" } },
  test: {
    environment: "happy-dom",
    include: ["tests/**/*.spec.ts"],
    testTimeout: 60_000, // a busy machine is no fault
    deps: { optimizer: { client: { enabled: true, include: ["element-plus/es"] } } },
    server: { deps: { inline: ["element-plus"] } },
  },
});
