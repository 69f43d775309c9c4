import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { compression } from "vite-plugin-compression2";
import { VitePWA } from "vite-plugin-pwa";

/** The engine is fetched while the page is still read: it is most of what a first visit waits for. */
const engineEarly: Plugin = {
  name: "engine-early",
  transformIndexHtml: {
    order: "post",
    handler: (_, { bundle }) =>
      Object.keys(bundle ?? {})
        .filter((file) => file.endsWith(".wasm"))
        .map((file) => ({ tag: "link", attrs: { rel: "preload", as: "fetch", type: "application/wasm", crossorigin: true, href: `/${file}` }, injectTo: "head-prepend" as const })),
  },
};

export default defineConfig({
  plugins: [
    react(),
    engineEarly,
    tailwindcss(),
    VitePWA({
      registerType: "autoUpdate",
      // `session/offline.ts` registers it once there is time.
      injectRegister: null,
      // What is asked of the server is never answered from here: the page keeps what it had itself.
      workbox: {
        globPatterns: ["**/*.{js,css,html,wasm,woff2,svg}"],
        maximumFileSizeToCacheInBytes: 4_000_000,
        navigateFallbackDenylist: [/^\/api\//],
        // A picture whose address tells its content never changes.
        runtimeCaching: [{ urlPattern: /\/api\/v1\/images\/[0-9a-f]+\/png$/, handler: "CacheFirst", options: { cacheName: "images", expiration: { maxEntries: 200 } } }],
      },
      manifest: {
        name: "Saltmarsh",
        short_name: "Saltmarsh",
        description: "Tune bristle, load, wet mixing, relief and grain until a stroke behaves like the medium.",
        start_url: "/",
        display: "standalone",
        background_color: "#f3f1ec",
        theme_color: "#f3f1ec",
        icons: [{ src: "/icon.svg", sizes: "any", type: "image/svg+xml", purpose: "any" }],
      },
    }),
    compression({ algorithms: ["brotliCompress", "gzip"], include: /\.(js|css|html|wasm|svg|webmanifest)$/, threshold: 1024 }),
  ],
  worker: { format: "es" },
  // What the Bench needs comes in one piece: nearly all of it is libraries, and each piece would cost a way to the server.
  build: { target: "es2023", chunkSizeWarningLimit: 900, rolldownOptions: { output: { codeSplitting: { groups: [{ name: "page", tags: ["$initial"] }] } } } },
  // As the page names it: the server writes for pages of its own name alone.
  server: { proxy: { "/api": { target: "http://127.0.0.1:8710", changeOrigin: false } } },
});
