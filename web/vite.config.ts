import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { compression } from "vite-plugin-compression2";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    // Sent as they lie there by WhiteNoise, to whoever can unpack them.
    compression({ algorithms: ["gzip", "brotliCompress"], include: /\.(js|css|html|svg)$/ }),
    // Only the application's own files are kept on the device; what belongs to a user is kept by shared/api/runStore.ts.
    VitePWA({
      filename: "shell.js",
      injectRegister: false,
      manifest: false,
      registerType: "autoUpdate",
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//],
      },
    }),
  ],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
  build: { assetsInlineLimit: 0 },
});
