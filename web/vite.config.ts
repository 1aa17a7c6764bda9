/// <reference types="vitest/config" />
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { fonts } from "./fonts.ts";
import { packed } from "./packed.ts";

export default defineConfig({
  plugins: [fonts(), react(), tailwindcss(), packed()],
  build: { outDir: "dist", emptyOutDir: true, assetsInlineLimit: 0 },
  test: { include: ["src/**/*.test.ts"] },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
