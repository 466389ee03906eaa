import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    // The shell is kept on the device: with the server gone, a place still opens, and says so in our own words. Nothing of the API is kept.
    VitePWA({
      registerType: "autoUpdate",
      injectRegister: null,
      manifest: false,
      workbox: {
        globPatterns: ["**/*.{html,js,css,woff2,svg,webmanifest}"],
        navigateFallback: null,
        inlineWorkboxRuntime: true,
        sourcemap: false,
        runtimeCaching: [
          {
            urlPattern: ({ request, url }) => request.mode === "navigate" && !url.pathname.startsWith("/api/"),
            handler: "NetworkOnly",
            options: { precacheFallback: { fallbackURL: "/index.html" } },
          },
        ],
      },
    }),
  ],
  build: {
    outDir: "../src/mutabilis/static",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    target: "es2022",
  },
  server: { proxy: { "/api": "http://127.0.0.1:8765" } },
});
