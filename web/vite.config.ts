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
        // On a slow line every file costs a way there and back, and every byte its time: a step is drawn from
        // two, the other kinds and benches follow in one.
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [
            {
              // Lists that open, and dialogs: what a step can be drawn without.
              name: "lists",
              test: /node_modules\/(@headlessui\/react\/dist\/(components\/(combobox|listbox|dialog|transition|portal|focus-trap|combobox-machine)|internal\/floating)|@floating-ui|tabbable|@tanstack\/(react-)?virtual)/,
              priority: 3,
            },
            {
              name: "kinds",
              test: /\/src\/(steps\/(FigureForm|PromiseDay|caution|check|decide|fill|order|photo|stack|test|torque|wait)|benches\/(?!bench|generic|given|end-float)|parts\/(drawn|FigureEditor|DayField)|model\/(practice|line|asked|sold|wear|trays|stack|ways|parts)\.)/,
              priority: 3,
            },
            {
              name: "steps",
              test: /\/src\/(steps|benches|views\/RebuildView|parts\/(BigFigure|Method|Choices|NumberLine|LimitLine|NextMove|Asked|TakePhoto|Frame|Finding|Finds|MarginSlot|gauge\/index)|model\/(pack|drawn|strange|circle)\.)|node_modules\/(d3-|internmap|@headlessui|@react-aria|@react-stately)/,
              priority: 2,
            },
            {
              name: "first",
              test: /rolldown.runtime|preload-helper|modulepreload-polyfill|\/src\/(main|router|theme|parts\/(?!Help|Listed|Picked|Versions|SchemaForm|Page)|model\/(?!schema\.)|data\/(session|rebuilds|client|sending|outbox|tabs|refusal|ahead|stream|write|fleet|calc)|views\/(Shell|Board|SignIn))|node_modules\/(react|react-dom|scheduler|@tanstack|openapi-fetch|idb|use-sync|tiny|isbot|cookie|seroval)/,
              priority: 1,
            },
          ],
        },
      },
    },
  },
  // One page and one store of modules for all: each test leaves them as it found them.
  test: {
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/test/setup.ts"],
    pool: "threads",
    isolate: false,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
