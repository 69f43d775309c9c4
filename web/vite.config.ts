import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  worker: { format: "es" },
  // What the Bench needs comes in one piece: nearly all of it is libraries.
  build: { target: "es2023", chunkSizeWarningLimit: 640 },
  server: { proxy: { "/api": "http://127.0.0.1:8710" } },
});
