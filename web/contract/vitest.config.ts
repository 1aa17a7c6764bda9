import { defineConfig } from "vitest/config";

/** Run by e2e/contract_test.go against a program that serves the demo. */
export default defineConfig({ test: { root: "contract", include: ["*.test.ts"] } });
