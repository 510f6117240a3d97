// A server whose clock the test sets: the product has no way to do that.
import { startServer } from "./server.mjs";

export async function startClocked(start) {
  const server = await startServer({ clock: start });
  return {
    ...server,
    /** Sets the clock forward, and waits until the server has seen that it is another day; answers what the clock shows then. */
    async forward(days) {
      const now = await server.forward(days);
      for (;;) {
        const jobs = await (await fetch(`${server.url}/api/jobs`)).json();
        if (jobs.some((j) => j.kind === "collect" && j.createdAt.slice(0, 10) === now.slice(0, 10) && j.state === "done"))
          return new Date(now);
        await new Promise((again) => setTimeout(again, 50));
      }
    },
  };
}
