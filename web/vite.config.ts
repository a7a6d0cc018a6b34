import vue from "@vitejs/plugin-vue";
import Components from "unplugin-vue-components/vite";
import { ElementPlusResolver } from "unplugin-vue-components/resolvers";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [
    vue(),
    Components({
      dirs: [],
      dts: "src/components.d.ts",
      resolvers: [ElementPlusResolver({ importStyle: "css" })],
    }),
  ],
  build: { target: "es2022", chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:8747" } },
  test: {
    environment: "happy-dom",
    include: ["tests/**/*.spec.ts"],
    server: { deps: { inline: ["element-plus"] } },
  },
});
