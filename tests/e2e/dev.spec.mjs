import { spawn } from "node:child_process";
import { join } from "node:path";
import { expect, test } from "./desk.mjs";
import { root } from "./server.mjs";

test("the development server shows the application and can write", async ({ page, server }) => {
  const vite = spawn("npx", ["vite", "--host", "127.0.0.1", "--port", "0"], {
    cwd: join(root, "web"),
    env: { ...process.env, BANDEJA_SERVER: server.url, NO_COLOR: "1" },
    detached: true,
  });
  try {
    const url = await new Promise((ok, fail) => {
      let text = "";
      vite.stdout.on("data", (chunk) => {
        const found = /http:\/\/127\.0\.0\.1:\d+/.exec((text += chunk));
        if (found) ok(found[0]);
      });
      vite.on("exit", (code) => fail(new Error(`vite ended with ${code}: ${text}`)));
    });
    await page.goto(`${url}/campaigns`);
    await expect(page.getByRole("heading", { name: "Campaigns", exact: true })).toBeVisible();
    const answer = await page.evaluate(async () => {
      const response = await fetch("/api/campaigns", {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ name: "Renewal" }),
      });
      return response.status;
    });
    expect(answer).toBe(200);
  } finally {
    // The page listens to events through that server: it leaves first, or the break is an error in its console.
    await page.goto(server.url);
    process.kill(-vite.pid, "SIGTERM");
  }
});
