// Starts a server of its own on a free port with an empty data folder, or with the demo's world, and stops it again.
import { spawn } from "node:child_process";
import { cpSync, existsSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

export const root = resolve(dirname(fileURLToPath(import.meta.url)), "../..");
const binary = (project) => join(root, project, "bin/Release/net10.0", `${project.split("/").pop()}.dll`);
const web = join(root, "web/dist");

/** A data folder of its own, empty or with the demo's world in it. */
async function freshData(demo) {
  const folder = mkdtempSync(join(tmpdir(), "bandeja-e2e-"));
  const data = join(folder, "data");
  if (demo) cpSync(await filled(), data, { recursive: true });
  return { data, remove: () => rmSync(folder, { recursive: true, force: true }) };
}

/**
 * A server beside others in one process, which stays for all the tests of a run: so each test has a server of its own, and none has to wait
 * until the code is compiled anew. With `clock`, a date and time, its clock is the test's.
 */
export async function startServer({ demo = false, clock = null } = {}) {
  const { data, remove } = await freshData(demo);
  const asked = new URLSearchParams({ data, web, ...(clock && { clock }) });
  const { id, url } = JSON.parse(await ask("POST", `/servers?${asked}`));
  return {
    url,
    /** What the server has logged as an error: what went wrong there is told with the test that saw it. */
    log: () => ask("GET", `/servers/${id}/log`),
    /** Sets the clock forward by so many days; answers what it shows then. */
    forward: async (days) => JSON.parse(await ask("POST", `/servers/${id}/forward?hours=${days * 24}`)),
    async stop() {
      await ask("DELETE", `/servers/${id}`);
      remove();
    },
  };
}

/** Where the demo's world lies, filled once; whoever needs it takes a copy. */
const filled = () => ask("POST", "/world");

async function ask(method, path) {
  const answer = await fetch((await servers()) + path, { method });
  const text = await answer.text();
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${text}`);
  return text;
}

/** The address of the process that starts servers, which is started by the run (`servers.mjs`), or here where there is none. */
export async function servers() {
  return (process.env.BANDEJA_SERVERS ??= await (started ??= startServers()));
}

let started = null;

async function startServers() {
  // Its input ends with this process, and so does it.
  const child = spawn("dotnet", [binary("tests/Bandeja.TestServers"), join(root, "demo/files")], { stdio: ["pipe", "pipe", "inherit"] });
  const { found } = await until(child, /Servers are started at (\S+)/);
  for (const held of [child, child.stdin, child.stdout]) held.unref();
  return found;
}

/** The server as it is shipped, in a process of its own, which can be killed. */
export async function startAlone({ demo = false } = {}) {
  const { data, remove } = await freshData(demo);
  const begin = async (port) => {
    const child = spawn(
      "dotnet",
      [
        binary("src/Bandeja.Server"),
        ...["--data", data, "--port", port, "--web", web],
        ...["--private-mail", "--name-server", "127.0.0.1:9"],
      ],
      { stdio: ["ignore", "pipe", "inherit"] },
    );
    const { said, found } = await until(child, /Bandeja is at (\S+)/);
    return { child, said, url: found };
  };
  let { child, url, said } = await begin("0");
  const ended = () => new Promise((done) => child.once("exit", done));
  return {
    url,
    log: async () => said.text.slice(-8000),
    /** As a power failure would have it: killed at once, then started again at the same address. */
    crashed: false,
    async crash() {
      this.crashed = true;
      const gone = ended();
      child.kill("SIGKILL");
      await gone;
      ({ child, said } = await begin(new URL(url).port));
    },
    async stop() {
      const gone = ended();
      child.kill("SIGTERM");
      await gone;
      remove();
    },
  };
}

/** Waits until a program has said what is looked for; goes on keeping what it says. */
async function until(child, sign) {
  const said = { text: "" };
  const found = await new Promise((ok, fail) => {
    child.stdout.on("data", (chunk) => {
      said.text += chunk;
      const match = sign.exec(said.text);
      if (match) ok(match[1]);
    });
    child.on("exit", (code) => fail(new Error(`${child.spawnargs[1]} ended with ${code}: ${said.text}`)));
  });
  return { said, found };
}

export const launchOptions = {
  executablePath: process.env.CHROMIUM ?? ["/usr/bin/chromium-headless-shell", "/usr/bin/chromium"].find(existsSync),
  args: [
    "--no-sandbox",
    "--disable-gpu",
    // Widths of letters as their font says, not rounded to the screen's pixels: lines break as on paper.
    "--font-render-hinting=none",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};
