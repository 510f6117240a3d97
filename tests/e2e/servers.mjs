// Before the tests of a run: the process that starts their servers, one for all of them. It ends with the run.
import { servers } from "./server.mjs";

export default async function startTheServers() {
  await servers();
}
