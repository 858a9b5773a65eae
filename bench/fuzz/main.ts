import { fuzz, inWords } from "../../server/tests/fuzzing";
import { RunningServer } from "../../server/tests/running-server";

/* Thousands of bent requests against a server of its own: no 5xx, no connection that breaks, no answer over ten seconds. */

const [seed = "1", requests = "8000"] = process.argv.slice(2);
const server = await RunningServer.start({ flags: [] });
try {
  const ask = async (path: string) => (await server.request("GET", path)).body;
  const { byStatus, slowest, bad } = await fuzz(server.url, ask, Number(seed), Number(requests));
  console.log(`seed ${seed}, ${requests} requests: ${JSON.stringify(byStatus)}, slowest ${Math.round(slowest)} ms`);
  for (const outcome of bad.slice(0, 20)) console.log(inWords(outcome));
  console.log(`${bad.length} that may not be`);
  process.exitCode = bad.length === 0 ? 0 : 1;
} finally {
  await server.remove();
}
