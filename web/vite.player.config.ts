import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/**
 * The page of the web player: one classic script and one style sheet with its fonts inside, since a
 * page that was opened from a folder may load no modules.
 */
export default defineConfig({
  plugins: [react(), tailwindcss()],
  publicDir: false,
  build: {
    target: "es2022",
    outDir: "dist/player",
    assetsInlineLimit: 10_000_000,
    cssCodeSplit: false,
    rollupOptions: {
      input: "src/film-player/main.tsx",
      output: { format: "iife", entryFileNames: "player.js", assetFileNames: "player[extname]" },
    },
  },
});
