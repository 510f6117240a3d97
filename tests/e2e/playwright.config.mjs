import { defineConfig } from "@playwright/test";
import { launchOptions } from "./server.mjs";

export default defineConfig({
  testDir: ".",
  globalSetup: "./servers.mjs",
  // Waits end with what they wait for; these ends are only for what never comes, on a machine many times slower too.
  timeout: 900_000,
  expect: { timeout: 120_000 },
  // Each test has a server of its own, so several can go side by side: one works while another waits for a page to be at rest.
  fullyParallel: true,
  workers: 3,
  // More servers and browsers than there are cores: what fails once is tried once more, and is told as flaky.
  retries: 1,
  use: { actionTimeout: 120_000, viewport: { width: 1280, height: 800 }, launchOptions, acceptDownloads: true, trace: "off" },
});
