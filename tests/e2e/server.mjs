// Starts a server of its own on a free port with an empty data folder, or with the demo's world, and stops it again.
import { spawn, spawnSync } from "node:child_process";
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

export const root = resolve(dirname(fileURLToPath(import.meta.url)), "../..");
const binary = (project) => join(root, project, "bin/Release/net10.0", `${project.split("/").pop()}.dll`);

let world = null;

/** The demo's world is filled once for all the tests of a process; each gets a copy of its own. */
function demoWorld() {
  if (world) return world;
  const folder = mkdtempSync(join(tmpdir(), "bandeja-demo-"));
  process.on("exit", () => rmSync(folder, { recursive: true, force: true }));
  const filled = spawnSync("dotnet", [binary("demo/Bandeja.Demo"), "fill", join(folder, "data"), join(root, "demo/files")], {
    encoding: "utf8",
  });
  if (filled.status !== 0) throw new Error(filled.stderr);
  return (world = join(folder, "data"));
}

export async function startServer({ demo = false } = {}) {
  const folder = mkdtempSync(join(tmpdir(), "bandeja-e2e-"));
  const data = join(folder, "data");
  if (demo) {
    cpSync(demoWorld(), data, { recursive: true });
  }
  let { child, url, said } = await begin(data, "0");
  const ended = () => new Promise((done) => child.once("exit", done));
  return {
    url,
    /** What the server has logged since it began: what went wrong there is told with the test that saw it. */
    log: () => said.text.slice(-8000),
    /** As a power failure would have it: killed at once, then started again at the same address. */
    crashed: false,
    async crash() {
      this.crashed = true;
      const gone = ended();
      child.kill("SIGKILL");
      await gone;
      ({ child, said } = await begin(data, new URL(url).port));
    },
    async stop() {
      const gone = ended();
      child.kill("SIGTERM");
      await gone;
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

async function begin(data, port) {
  const child = spawn(
    "dotnet",
    [
      binary("src/Bandeja.Server"),
      "--data",
      data,
      "--port",
      port,
      "--web",
      join(root, "web/dist"),
      "--private-mail",
      "--name-server",
      "127.0.0.1:9",
    ],
    { stdio: ["ignore", "pipe", "inherit"] },
  );
  const said = { text: "" };
  const url = await new Promise((ok, fail) => {
    child.stdout.on("data", (chunk) => {
      said.text += chunk;
      const found = /Bandeja is at (\S+)/.exec(said.text);
      if (found) ok(found[1]);
    });
    child.on("exit", (code) => fail(new Error(`the server ended with ${code}`)));
  });
  return { child, url, said };
}

export const launchOptions = {
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};
