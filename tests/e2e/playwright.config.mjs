import { defineConfig } from "@playwright/test";
import { launchOptions } from "./server.mjs";

export default defineConfig({
  testDir: ".",
  timeout: 90_000,
  expect: { timeout: 15_000 },
  workers: 1,
  use: { viewport: { width: 1280, height: 800 }, launchOptions, acceptDownloads: true, trace: "off" },
});
