import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

const server = process.env.BANDEJA_SERVER ?? "http://127.0.0.1:5280";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // The files of a worker share what they import: most of their time went into reading the same modules again for each.
  test: { setupFiles: ["./vitest.setup.ts"], pool: "threads", isolate: false },
  // The content security policy takes fonts only as files.
  build: { chunkSizeWarningLimit: 2000, assetsInlineLimit: 0 },
  // The server compares where a request comes from with the name it is asked under, so the proxy must leave that name as it is.
  server: {
    port: 5281,
    // The handbook lies beside the application.
    fs: { allow: [".."] },
    proxy: { "/api": { target: server, changeOrigin: false }, "/paper-fonts": { target: server, changeOrigin: false } },
  },
});
