import { afterEach } from "vitest";

// A part that was shown is taken away, with what it kept, before the next test: the page outlives a file.
afterEach(async () => {
  if (typeof document === "undefined") return;
  (await import("@testing-library/react")).cleanup();
  localStorage.clear();
  sessionStorage.clear();
});
