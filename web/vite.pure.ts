import { defineConfig } from "vite";

/** What works without a screen, as one script for the tests. */
export default defineConfig({
  publicDir: false,
  build: {
    outDir: "dist",
    target: "es2022",
    minify: false,
    lib: { entry: "src/pure/index.ts", name: "pure", formats: ["iife"], fileName: () => "pure.js" },
  },
});
