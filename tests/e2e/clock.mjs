// A server whose clock the test sets: a program for tests alone, because the product has no way to do that.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { root } from "./server.mjs";

export async function startClocked(start) {
  const folder = mkdtempSync(join(tmpdir(), "bandeja-clock-"));
  const child = spawn(
    "dotnet",
    [
      join(root, "tests/Bandeja.ClockedServer/bin/Release/net10.0/Bandeja.ClockedServer.dll"),
      join(folder, "data"),
      join(root, "web/dist"),
      start,
    ],
    { stdio: ["ignore", "pipe", "inherit"] },
  );
  let text = "";
  const [clock, url] = await new Promise((ok, fail) => {
    child.stdout.on("data", (chunk) => {
      text += chunk;
      const found = [/The clock is at (\S+)/.exec(text), /Bandeja is at (\S+)/.exec(text)];
      if (found[0] && found[1]) ok(found.map((f) => f[1]));
    });
    child.on("exit", (code) => fail(new Error(`the server ended with ${code}: ${text}`)));
  });
  return {
    url,
    /** Sets the clock forward, and waits until the server has seen that it is another day; answers what the clock shows then. */
    async forward(days) {
      const now = await (await fetch(`${clock}/forward?hours=${days * 24}`, { method: "POST" })).json();
      for (;;) {
        const jobs = await (await fetch(`${url}/api/jobs`)).json();
        if (jobs.some((j) => j.kind === "collect" && j.createdAt.slice(0, 10) === now.slice(0, 10) && j.state === "done"))
          return new Date(now);
        await new Promise((again) => setTimeout(again, 50));
      }
    },
    async stop() {
      const gone = new Promise((done) => child.once("exit", done));
      child.kill("SIGTERM");
      await gone;
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
