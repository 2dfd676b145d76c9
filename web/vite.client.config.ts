import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/**
 * The page that clients see. It is built by itself: the server that the world may reach serves
 * nothing of the studio's page.
 */
export default defineConfig({
  plugins: [react(), tailwindcss()],
  publicDir: false,
  build: {
    target: "es2022",
    outDir: "dist/client",
    modulePreload: false,
    rollupOptions: { input: "client.html" },
  },
});
