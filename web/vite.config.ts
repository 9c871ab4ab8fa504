import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  build: {
    outDir: "built",
    manifest: true,
    assetsInlineLimit: 0,
    sourcemap: false,
    rolldownOptions: { input: ["index.html", "src/blog/blog.css", "src/blog/reading.ts"] },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8700", "/blog": "http://127.0.0.1:8700" } },
  test: {
    // One document for all files of a process: making one takes longer than most files.
    environment: "./src/testing/environment.ts",
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/testing/setup.ts"],
    // Files share one environment in each process: what a test leaves behind is cleaned up after it (setup.ts).
    isolate: false,
    // On a slow machine a walk through a whole screen takes its time.
    testTimeout: 30_000,
  },
});
