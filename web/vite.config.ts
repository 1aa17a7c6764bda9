/// <reference types="vitest/config" />
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { fonts } from "./fonts.ts";
import { packed } from "./packed.ts";

export default defineConfig({
  plugins: [fonts(), react(), tailwindcss(), packed()],
  build: {
    outDir: "dist",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        // On a slow line every file costs a way there and back: a step is one, with all kinds and benches.
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [
            {
              name: "steps",
              test: /\/src\/(steps|benches|views\/RebuildView|parts\/(drawn|FigureEditor|Choices|NumberLine|Asked|TakePhoto|Frame|Finding|Finds|MarginSlot)|model\/(pack|motion|line|shift|shafts|asked|strange|wear|chain|trays|stack|ways|drawn)\.)|node_modules\/(d3-|internmap|@headlessui|@react-aria|@react-stately|@floating-ui|tabbable|@tanstack\/(react-)?virtual)/,
              priority: 2,
            },
            {
              name: "first",
              test: /rolldown.runtime|preload-helper|modulepreload-polyfill|\/src\/(main|router|theme|parts\/(?!Help)|model|views\/(Shell|Board|SignIn|help))|node_modules\/(react|react-dom|scheduler|@tanstack|openapi-fetch|idb|use-sync|tiny|isbot|cookie|seroval)/,
              priority: 1,
            },
          ],
        },
      },
    },
  },
  test: { include: ["src/**/*.test.ts"] },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
