// Starts a server of its own on a free port with an empty data folder, or with the demo's world, and stops it again.
import { spawn, spawnSync } from "node:child_process";
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

export const root = resolve(dirname(fileURLToPath(import.meta.url)), "../..");
const binary = (project) => join(root, project, "bin/Release/net10.0", `${project.split("/").pop()}.dll`);
const web = join(root, "web/dist");

/**
 * The demo's world, filled once for all the tests of a run: whoever needs it first fills it, and the others wait; each test gets a copy.
 * The folder is made and removed by the run (`world.mjs`), or here where there is none.
 */
async function demoWorld() {
  const folder = (process.env.BANDEJA_WORLD ??= ownFolder());
  const filled = join(folder, "data");
  try {
    mkdirSync(join(folder, "filling"));
  } catch (e) {
    if (e.code !== "EEXIST") throw e;
    const failed = join(folder, "failed");
    while (!existsSync(filled) && !existsSync(failed)) await new Promise((again) => setTimeout(again, 50));
    if (existsSync(filled)) return filled;
    throw new Error(`the demo's world was not filled: ${readFileSync(failed, "utf8")}`);
  }
  const made = spawnSync("dotnet", [binary("demo/Bandeja.Demo"), "fill", join(folder, "filling/data"), join(root, "demo/files")], {
    encoding: "utf8",
  });
  if (made.status !== 0) {
    writeFileSync(join(folder, "failed"), made.stderr);
    throw new Error(`the demo's world was not filled: ${made.stderr}`);
  }
  renameSync(join(folder, "filling/data"), filled);
  return filled;
}

function ownFolder() {
  const folder = mkdtempSync(join(tmpdir(), "bandeja-demo-"));
  process.on("exit", () => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

/** A data folder of its own, empty or with the demo's world in it. */
async function freshData(demo) {
  const folder = mkdtempSync(join(tmpdir(), "bandeja-e2e-"));
  const data = join(folder, "data");
  if (demo) cpSync(await demoWorld(), data, { recursive: true });
  return { data, remove: () => rmSync(folder, { recursive: true, force: true }) };
}

/**
 * A server beside others in one process, which stays for all the tests of a worker: so each test has a server of its own, and none has
 * to wait until the code is compiled anew. With `clock`, a date and time, its clock is the test's.
 */
export async function startServer({ demo = false, clock = null } = {}) {
  const { data, remove } = await freshData(demo);
  const { control, said } = await (servers ??= startServers());
  const before = said.text.length;
  const asked = new URLSearchParams({ data, web, ...(clock && { clock }) });
  const answer = await fetch(`${control}/servers?${asked}`, { method: "POST" });
  if (!answer.ok) throw new Error(`the server did not start: ${said.text.slice(before)}`);
  const { id, url } = await answer.json();
  return {
    url,
    /** What the server has logged since it began: what went wrong there is told with the test that saw it. */
    log: () => said.text.slice(before).slice(-8000),
    /** Sets the clock forward by so many days; answers what it shows then. */
    async forward(days) {
      return await (await fetch(`${control}/servers/${id}/forward?hours=${days * 24}`, { method: "POST" })).json();
    },
    async stop() {
      await fetch(`${control}/servers/${id}`, { method: "DELETE" });
      remove();
    },
  };
}

let servers = null;

async function startServers() {
  // Its input ends with this process, and so does it.
  const child = spawn("dotnet", [binary("tests/Bandeja.TestServers")], { stdio: ["pipe", "pipe", "inherit"] });
  const { said, found } = await until(child, /Servers are started at (\S+)/);
  for (const held of [child, child.stdin, child.stdout]) held.unref();
  return { control: found, said };
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
    log: () => said.text.slice(-8000),
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
